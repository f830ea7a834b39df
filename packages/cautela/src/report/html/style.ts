/**
 * How the page looks: ink on paper, weights told by shape. It is put into the page as it stands, so it holds none of the
 * characters that HTML escapes.
 */
export const STYLE = `
:root{color-scheme:light dark;--paper:light-dark(#fbfaf7,#17191c);--sheet:light-dark(#fff,#1e2125);--ink:light-dark(#22262b,#e4e2dc);--faint:light-dark(#5f636a,#a0a4a9);--line:light-dark(#dcd8cf,#34383e);--stop:light-dark(#a3211b,#ff8a7a);--ask:light-dark(#8a5a00,#e9b44c);--note:light-dark(#2b5c8a,#86b6e4);--clear:light-dark(#2c6b45,#7fc79b);--mono:ui-monospace,DejaVu Sans Mono,Liberation Mono,monospace;font:16px/1.5 system-ui,DejaVu Sans,sans-serif}
*{box-sizing:border-box}
body{max-width:62rem;margin:0 auto;padding:1.5rem 1rem 4rem;background:var(--paper);color:var(--ink);overflow-wrap:anywhere}
h1{display:flex;gap:.6rem;align-items:center;margin:0 0 .3rem;font-size:1.5rem;line-height:1.25}
h2{margin:2.6rem 0 .2rem;padding-top:.6rem;border-top:2px solid var(--ink);font-size:1.15rem}
h3{margin:0;font-size:1rem}
h4{margin:1rem 0 .3rem;font-size:.85rem}
p{margin:.35rem 0}
a{color:inherit}
code,pre{font-family:var(--mono);font-size:.87em}
.mark{flex:none;vertical-align:-.1em}
.stop{color:var(--stop)}.ask{color:var(--ask)}.note{color:var(--note)}.clear{color:var(--clear)}
.faint{color:var(--faint)}
.counts{display:flex;flex-wrap:wrap;gap:.2rem 1.1rem}
.wide{overflow-x:auto}
table{width:100%;margin:1rem 0;border-collapse:collapse;font-size:.92rem}
th,td{padding:.3rem .6rem .3rem 0;border-bottom:1px solid var(--line);text-align:left;vertical-align:top}
th{color:var(--faint);font-weight:400}
.number{text-align:right;white-space:nowrap}
.verdict{white-space:nowrap}
article{margin:1rem 0;padding:.8rem 1rem;border:1px solid var(--line);border-radius:4px;background:var(--sheet)}
article.plain{padding:.35rem 1rem}
article header{display:flex;flex-wrap:wrap;gap:.2rem 1rem;align-items:baseline}
.plain h3{font-weight:400}
.reach{display:inline-flex;gap:.6rem;align-items:center;color:var(--faint);font-size:.9rem}
.frame{fill:none;stroke:var(--faint)}.share{fill:var(--ink)}.hatch{fill:var(--ink)}.part{stroke:none}
pre{margin:.6rem 0;padding:.6rem .8rem;overflow-x:auto;border-left:3px solid var(--line);background:var(--paper);line-height:1.45;overflow-wrap:normal}
.source{counter-reset:line}
.source span{display:block;min-height:1.45em}
.finding{margin-top:.9rem;padding-left:1.55rem;position:relative}
.finding .mark{position:absolute;left:0;top:.3rem}
.finding .name{font-weight:600}
.because{margin:.3rem 0;padding-left:1.1rem;color:var(--faint)}
.label{color:var(--faint)}
details{margin-top:.7rem}
summary{cursor:pointer;color:var(--faint)}
.drawing{margin-top:.8rem;overflow-x:auto}
.drawing svg{max-width:100%;height:auto}
.drawing text{font:12px sans-serif;fill:var(--ink)}.drawing .first{font-weight:600}
.box rect{fill:var(--sheet);stroke:var(--ink)}.box.view rect{stroke-dasharray:5 3}.box.statement rect{stroke-width:2}
.box line{stroke:var(--line)}.box .remark{font-style:italic}
.arrow path{fill:none;stroke:var(--faint)}.arrow.perhaps path{stroke-dasharray:5 4}.arrow-head{fill:var(--faint)}.arrow rect{fill:var(--sheet)}
footer{margin-top:3rem;padding-top:.6rem;border-top:1px solid var(--line);color:var(--faint);font-size:.9rem}
@media (max-width:40rem){:root{font-size:15px}body{padding:1rem .7rem 3rem}article{padding:.7rem}.optional{display:none}.drawing svg{max-width:none}}
@media print{:root{color-scheme:light;--paper:#fff;--sheet:#fff;--ink:#000;--faint:#333;--line:#999;--stop:#000;--ask:#000;--note:#000;--clear:#000;font-size:10.5pt}body{max-width:none;padding:0}article{break-inside:auto}header,.finding,.drawing{break-inside:avoid}pre{white-space:pre-wrap}details::details-content{content-visibility:visible;display:block;height:auto}}
`;
