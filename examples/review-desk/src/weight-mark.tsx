import type { Verdict } from "cautela";

/** The mark of a weight: a filled, a half filled or an open square, so that it can be told without colour. */
export function WeightMark({ weight, size = 14 }: { weight: Verdict; size?: number }) {
  return (
    <svg className={`mark ${weight}`} width={size} height={size} viewBox="0 0 14 14" role="img" aria-label={weight}>
      {weight === "clear" ? (
        <path d="M2.5 7.5 L6 11 L12 3.5" fill="none" stroke="currentColor" strokeWidth="2" />
      ) : (
        <rect x="1.5" y="1.5" width="11" height="11" fill="none" stroke="currentColor" strokeWidth="2" />
      )}
      {weight === "stop" && <rect x="1.5" y="1.5" width="11" height="11" fill="currentColor" />}
      {weight === "ask" && <rect x="1.5" y="1.5" width="5.5" height="11" fill="currentColor" />}
    </svg>
  );
}
