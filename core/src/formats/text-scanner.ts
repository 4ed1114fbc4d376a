import { FormatError } from './format.ts';

const LF = 10;
const POWERS = Array.from({ length: 23 }, (_, i) => 10 ** i);

/** Reads words and numbers straight from the bytes of a text file, and knows its line. */
export class TextScanner {
  at = 0;
  line = 1;

  constructor(
    readonly bytes: Uint8Array,
    /** format name, for messages */
    private readonly format: string
  ) {
    // a byte order mark in front (UTF-8) is no content
    if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) this.at = 3;
  }

  get atEnd(): boolean {
    return this.at >= this.bytes.length;
  }

  fail(what: string): never {
    throw new FormatError(`${this.format}, line ${this.line}: ${what}`);
  }

  /** Skips blanks within the line; a backslash before the line's end joins the next line. @returns whether more follows on the line */
  skipBlanks(): boolean {
    const { bytes } = this;
    for (; this.at < bytes.length; this.at++) {
      const c = bytes[this.at];
      if (c === LF) return false;
      if (c === 92 && (bytes[this.at + 1] === LF || (bytes[this.at + 1] === 13 && bytes[this.at + 2] === LF))) {
        while (bytes[this.at] !== LF) this.at++;
        this.line++;
      } else if (c > 32) return true;
    }
    return false;
  }

  /** Moves past the end of this line. */
  nextLine(): void {
    const end = this.bytes.indexOf(LF, this.at);
    this.at = end < 0 ? this.bytes.length : end + 1;
    this.line++;
  }

  /** Skips blanks, line ends, and comments that start with `#`. @returns whether anything follows */
  skipToContent(): boolean {
    while (!this.atEnd) {
      if (!this.skipBlanks() || this.bytes[this.at] === 35) {
        if (this.atEnd) return false;
        this.nextLine();
      } else return true;
    }
    return false;
  }

  /** The characters up to the next blank; empty at a line's end. */
  word(): string {
    this.skipBlanks();
    const start = this.at;
    while (this.at < this.bytes.length && this.bytes[this.at] > 32) this.at++;
    return ascii(this.bytes, start, this.at);
  }

  /** The rest of the line without blanks at its ends; stays before the line end. */
  rest(): string {
    this.skipBlanks();
    let end = this.bytes.indexOf(LF, this.at);
    if (end < 0) end = this.bytes.length;
    const text = new TextDecoder().decode(this.bytes.subarray(this.at, end)).trim();
    this.at = end;
    return text;
  }

  /**
   * A finite decimal number. Digits up to 2^53 with a small exponent are exact by one multiplication or division
   * (Clinger 1990); anything else goes through the platform's own parser.
   */
  number(what: string): number {
    if (!this.skipBlanks()) this.fail(`${what} is missing (the line ends early).`);
    const { bytes } = this;
    const start = this.at;
    let i = start;
    const negative = bytes[i] === 45;
    if (negative || bytes[i] === 43) i++;
    let mantissa = 0;
    let digits = 0;
    let scale = 0;
    let c = bytes[i];
    for (; c >= 48 && c <= 57; c = bytes[++i]) {
      mantissa = mantissa * 10 + (c - 48);
      digits++;
    }
    if (c === 46)
      for (c = bytes[++i]; c >= 48 && c <= 57; c = bytes[++i]) {
        mantissa = mantissa * 10 + (c - 48);
        digits++;
        scale--;
      }
    if (digits > 0 && (c === 101 || c === 69)) {
      let j = i + 1;
      const down = bytes[j] === 45;
      if (down || bytes[j] === 43) j++;
      let exponent = 0;
      for (c = bytes[j]; c >= 48 && c <= 57; c = bytes[++j]) exponent = exponent * 10 + (c - 48);
      scale += down ? -exponent : exponent;
      i = j;
    }
    if (digits > 0 && mantissa <= Number.MAX_SAFE_INTEGER && scale >= -22 && scale <= 22 && !(c > 32 && c !== 47 && c !== 44)) {
      this.at = i;
      const value = scale < 0 ? mantissa / POWERS[-scale] : mantissa * POWERS[scale];
      return negative ? -value : value;
    }
    return this.slowNumber(what, start);
  }

  private slowNumber(what: string, start: number): number {
    this.at = start;
    while (this.at < this.bytes.length && this.bytes[this.at] > 32) this.at++;
    const text = ascii(this.bytes, start, this.at);
    const value = Number(text);
    if (!/\d/.test(text) || !Number.isFinite(value)) this.fail(`${what} is not a finite number ("${text.slice(0, 30)}").`);
    return value;
  }

  /** A whole number. */
  integer(what: string): number {
    const value = this.number(what);
    if (!Number.isInteger(value)) this.fail(`${what} is not a whole number (${value}).`);
    return value;
  }
}

/** Bytes as characters, for short words. */
export function ascii(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let i = start; i < end; i++) text += String.fromCharCode(bytes[i]);
  return text;
}

/** Joins lines to bytes in blocks, so that large files need no string of their whole size. */
export class TextWriter {
  private parts: Uint8Array<ArrayBuffer>[] = [];
  private lines: string[] = [];
  private encoder = new TextEncoder();

  line(text: string): void {
    this.lines.push(text);
    if (this.lines.length === 1 << 16) this.flush();
  }

  private flush(): void {
    if (this.lines.length === 0) return;
    this.parts.push(this.encoder.encode(this.lines.join('\n') + '\n'));
    this.lines = [];
  }

  done(): Uint8Array<ArrayBuffer> {
    this.flush();
    const whole = new Uint8Array(this.parts.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of this.parts) {
      whole.set(part, at);
      at += part.length;
    }
    return whole;
  }
}
