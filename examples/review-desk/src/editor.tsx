import { defaultKeymap, history, historyKeymap, indentWithTab } from "@codemirror/commands";
import { MariaSQL, MSSQL, MySQL, PLSQL, PostgreSQL, type SQLDialect, SQLite, sql } from "@codemirror/lang-sql";
import { HighlightStyle, syntaxHighlighting } from "@codemirror/language";
import { highlightSelectionMatches, searchKeymap } from "@codemirror/search";
import { Compartment, EditorState, RangeSet, StateEffect, StateField } from "@codemirror/state";
import {
  Decoration,
  type DecorationSet,
  drawSelection,
  EditorView,
  GutterMarker,
  gutter,
  highlightActiveLine,
  highlightSpecialChars,
  keymap,
  lineNumbers,
} from "@codemirror/view";
import { tags } from "@lezer/highlight";
import type { DialectId, Verdict } from "cautela";
import { useEffect, useRef } from "react";

/** A statement with findings, as the editor marks it. */
export interface Marked {
  start: number;
  end: number;
  verdict: Verdict;
  index: number;
}

/** A request to show a range; a new object each time, so that the same range can be shown again. */
export interface Jump {
  start: number;
  end: number;
}

const HIGHLIGHT: Record<DialectId, SQLDialect> = {
  postgresql: PostgreSQL,
  mysql: MySQL,
  mariadb: MariaSQL,
  sqlite: SQLite,
  tsql: MSSQL,
  plsql: PLSQL,
  jet: MSSQL,
};

const style = HighlightStyle.define([
  { tag: tags.keyword, color: "var(--keyword)", fontWeight: "600" },
  { tag: [tags.string, tags.special(tags.string)], color: "var(--string)" },
  { tag: [tags.number, tags.bool, tags.null], color: "var(--number)" },
  { tag: tags.comment, color: "var(--faint)", fontStyle: "italic" },
  { tag: tags.typeName, color: "var(--type)" },
]);

class Mark extends GutterMarker {
  readonly verdict: Verdict;
  readonly index: number;

  constructor(verdict: Verdict, index: number) {
    super();
    this.verdict = verdict;
    this.index = index;
  }

  override eq(other: Mark): boolean {
    return other.verdict === this.verdict && other.index === this.index;
  }

  override toDOM(): HTMLElement {
    const mark = document.createElement("span");
    mark.className = `gutter-mark ${this.verdict}`;
    mark.title = `${this.verdict}: show what was found`;
    return mark;
  }
}

const setMarks = StateEffect.define<Marked[]>();

const marksField = StateField.define<{ gutter: RangeSet<Mark>; lines: DecorationSet }>({
  create: () => ({ gutter: RangeSet.empty, lines: Decoration.none }),
  update(value, transaction) {
    let next = transaction.docChanged
      ? { gutter: value.gutter.map(transaction.changes), lines: value.lines.map(transaction.changes) }
      : value;
    for (const effect of transaction.effects) {
      if (!effect.is(setMarks)) continue;
      const { doc } = transaction.state;
      const marks: ReturnType<Mark["range"]>[] = [];
      const lines: ReturnType<Decoration["range"]>[] = [];
      for (const { start, end, verdict, index } of effect.value) {
        if (end > doc.length) continue;
        const first = doc.lineAt(start);
        marks.push(new Mark(verdict, index).range(first.from) as ReturnType<Mark["range"]>);
        const last = doc.lineAt(Math.max(start, end - 1)).number;
        for (let line = first.number; line <= last; line++) {
          lines.push(Decoration.line({ class: `marked-line ${verdict}` }).range(doc.line(line).from));
        }
      }
      next = { gutter: RangeSet.of(marks, true) as RangeSet<Mark>, lines: Decoration.set(lines, true) };
    }
    return next;
  },
  provide: (field) => EditorView.decorations.from(field, (value) => value.lines),
});

interface EditorProps {
  text: string;
  dialect: DialectId;
  marks: Marked[];
  jump: Jump | null;
  onChange(text: string): void;
  /** The cursor has moved to this offset. */
  onCursor(offset: number): void;
  /** A mark in the margin was clicked. */
  onMark(index: number): void;
  /** Step to the next (1) or the previous (-1) finding. */
  onStep(by: 1 | -1): void;
}

/** The script in an editor, with the marks of what was found in its margin. */
export function Editor(props: EditorProps) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const language = useRef(new Compartment());
  // The editor lives longer than one rendering; it calls what the newest one was given.
  const newest = useRef(props);
  newest.current = props;

  useEffect(() => {
    if (!host.current) return;
    const state = EditorState.create({
      doc: newest.current.text,
      extensions: [
        lineNumbers(),
        highlightSpecialChars(),
        marksField,
        gutter({
          class: "mark-gutter",
          markers: (editor) => editor.state.field(marksField).gutter,
          domEventHandlers: {
            mousedown(editor, line) {
              editor.state.field(marksField).gutter.between(line.from, line.from, (_from, _to, mark) => {
                newest.current.onMark(mark.index);
                return false;
              });
              return true;
            },
          },
        }),
        history(),
        drawSelection(),
        EditorView.lineWrapping,
        highlightActiveLine(),
        highlightSelectionMatches(),
        syntaxHighlighting(style),
        language.current.of(sql({ dialect: HIGHLIGHT[newest.current.dialect] })),
        keymap.of([
          { key: "F8", run: () => step(1) },
          { key: "Shift-F8", run: () => step(-1) },
          ...searchKeymap,
          ...historyKeymap,
          ...defaultKeymap,
          indentWithTab,
        ]),
        EditorView.contentAttributes.of({ "aria-label": "SQL change script" }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) newest.current.onChange(update.state.doc.toString());
          if (update.selectionSet || update.docChanged) newest.current.onCursor(update.state.selection.main.head);
        }),
      ],
    });
    const step = (by: 1 | -1): boolean => {
      newest.current.onStep(by);
      return true;
    };
    view.current = new EditorView({ state, parent: host.current });
    return () => view.current?.destroy();
  }, []);

  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== props.text) {
      editor.dispatch({
        changes: { from: 0, to: editor.state.doc.length, insert: props.text },
        selection: { anchor: 0 },
      });
    }
  }, [props.text]);

  useEffect(() => {
    view.current?.dispatch({ effects: language.current.reconfigure(sql({ dialect: HIGHLIGHT[props.dialect] })) });
  }, [props.dialect]);

  useEffect(() => {
    view.current?.dispatch({ effects: setMarks.of(props.marks) });
  }, [props.marks]);

  useEffect(() => {
    const editor = view.current;
    if (!editor || !props.jump) return;
    const end = Math.min(props.jump.end, editor.state.doc.length);
    editor.dispatch({
      selection: { anchor: Math.min(props.jump.start, end), head: end },
      effects: EditorView.scrollIntoView(Math.min(props.jump.start, end), { y: "center" }),
    });
    editor.focus();
  }, [props.jump]);

  return <div className="editor" ref={host} data-testid="editor" />;
}
