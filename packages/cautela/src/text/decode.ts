/** The text of a file, and how it was found to be encoded. */
export interface DecodedText {
  text: string;
  encoding: "utf-8" | "utf-16le" | "utf-16be" | "latin-1";
  /** The line of the first byte that is no UTF-8, where the file was taken as Latin-1; else null. */
  invalidLine: number | null;
}

/**
 * Decodes the bytes of a script: UTF-8 with or without a byte-order mark, UTF-16 with one, and
 * otherwise Latin-1, which every sequence of bytes is.
 */
export function decodeText(bytes: Uint8Array): DecodedText {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: utf16(bytes, true), encoding: "utf-16le", invalidLine: null };
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: utf16(bytes, false), encoding: "utf-16be", invalidLine: null };
  const start = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  const bad = firstInvalid(bytes, start);
  if (bad >= 0) {
    let line = 1;
    for (let i = 0; i < bad; i++) if (bytes[i] === 10) line++;
    return { text: latin1(bytes), encoding: "latin-1", invalidLine: line };
  }
  return { text: utf8(bytes, start), encoding: "utf-8", invalidLine: null };
}

const CHUNK = 8192;

function pieces(units: number[], out: string[]): void {
  if (units.length > 0) out.push(String.fromCharCode(...units));
  units.length = 0;
}

function utf16(bytes: Uint8Array, little: boolean): string {
  const out: string[] = [];
  const units: number[] = [];
  for (let i = 2; i + 1 < bytes.length; i += 2) {
    units.push(little ? bytes[i] | (bytes[i + 1] << 8) : (bytes[i] << 8) | bytes[i + 1]);
    if (units.length === CHUNK) pieces(units, out);
  }
  pieces(units, out);
  return out.join("");
}

function latin1(bytes: Uint8Array): string {
  const out: string[] = [];
  for (let i = 0; i < bytes.length; i += CHUNK) out.push(String.fromCharCode(...bytes.subarray(i, i + CHUNK)));
  return out.join("");
}

function width(first: number): number {
  if (first < 0x80) return 1;
  if (first >= 0xc2 && first <= 0xdf) return 2;
  if (first >= 0xe0 && first <= 0xef) return 3;
  if (first >= 0xf0 && first <= 0xf4) return 4;
  return 0;
}

/** The offset of the first byte that is not part of valid UTF-8 (RFC 3629), or -1. */
function firstInvalid(bytes: Uint8Array, start: number): number {
  let i = start;
  while (i < bytes.length) {
    const first = bytes[i];
    if (first < 0x80) {
      i++;
      continue;
    }
    const size = width(first);
    if (size === 0 || i + size > bytes.length) return i;
    const second = bytes[i + 1];
    if ((first === 0xe0 && second < 0xa0) || (first === 0xed && second > 0x9f)) return i;
    if ((first === 0xf0 && second < 0x90) || (first === 0xf4 && second > 0x8f)) return i;
    for (let k = 1; k < size; k++) if ((bytes[i + k] & 0xc0) !== 0x80) return i;
    i += size;
  }
  return -1;
}

function utf8(bytes: Uint8Array, start: number): string {
  const out: string[] = [];
  const units: number[] = [];
  let i = start;
  while (i < bytes.length) {
    const first = bytes[i];
    const size = width(first);
    if (size === 1) units.push(first);
    else {
      let code = first & (0xff >> (size + 1));
      for (let k = 1; k < size; k++) code = (code << 6) | (bytes[i + k] & 0x3f);
      if (code > 0xffff) {
        code -= 0x10000;
        units.push(0xd800 | (code >> 10), 0xdc00 | (code & 0x3ff));
      } else units.push(code);
    }
    i += size;
    if (units.length >= CHUNK) pieces(units, out);
  }
  pieces(units, out);
  return out.join("");
}
