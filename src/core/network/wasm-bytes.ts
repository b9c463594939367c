/** The bytes of WebAssembly modules, as far as code for lanes needs them. By WebAssembly Core Specification 2.0, W3C, chapter 5 (binary format). */

/** Types of numbers. */
export const I32 = 0x7f;
export const F64 = 0x7c;
export const V128 = 0x7b;

export interface FunctionType {
  readonly takes: readonly number[];
  readonly gives: readonly number[];
}

export interface ImportedFunction extends FunctionType {
  readonly name: string;
}

export interface OwnFunction extends FunctionType {
  readonly name: string;
  /** Beside what it takes: so many of each type. */
  readonly locals: readonly { readonly count: number; readonly type: number }[];
  readonly code: ByteWriter;
}

/** Bytes that are written one after another. */
export class ByteWriter {
  private data = new Uint8Array(1_024);
  private view = new DataView(this.data.buffer);
  length = 0;

  byte(value: number): void {
    if (this.length === this.data.length) this.grow(1);
    this.data[this.length++] = value;
  }

  bytes(values: ArrayLike<number>): void {
    if (this.length + values.length > this.data.length) this.grow(values.length);
    this.data.set(values, this.length);
    this.length += values.length;
  }

  /** A whole number from 0 on, in base 128. */
  unsigned(value: number): void {
    let rest = value;
    for (; rest >= 128; rest = Math.floor(rest / 128)) this.byte((rest % 128) + 128);
    this.byte(rest);
  }

  /** A 32-bit whole number, maybe a negative one. */
  signed(value: number): void {
    let rest = value;
    for (;;) {
      const low = rest & 127;
      rest >>= 7;
      const isLast = (rest === 0 && (low & 64) === 0) || (rest === -1 && (low & 64) !== 0);
      this.byte(isLast ? low : low | 128);
      if (isLast) return;
    }
  }

  double(value: number): void {
    if (this.length + 8 > this.data.length) this.grow(8);
    this.view.setFloat64(this.length, value, true);
    this.length += 8;
  }

  /** A part with its length before it. */
  sized(part: ByteWriter): void {
    this.unsigned(part.length);
    this.bytes(part.written());
  }

  /** What is written so far; not to be kept while more is written. */
  written(): Uint8Array<ArrayBuffer> {
    return this.data.subarray(0, this.length);
  }

  private grow(by: number): void {
    const larger = new Uint8Array(Math.max(2 * this.data.length, this.length + by));
    larger.set(this.data);
    this.data = larger;
    this.view = new DataView(larger.buffer);
  }
}

/** A module that works on the memory `env.memory` and calls functions of `env`; all of its own are exported. */
export function writeModule(imports: readonly ImportedFunction[], own: readonly OwnFunction[]): Uint8Array<ArrayBuffer> {
  const module = new ByteWriter();
  // "\0asm", version 1.
  module.bytes([0x00, 0x61, 0x73, 0x6d, 0x01, 0x00, 0x00, 0x00]);
  section(module, 1, [...imports, ...own], (to, { takes, gives }) => {
    to.byte(0x60);
    for (const types of [takes, gives]) {
      to.unsigned(types.length);
      to.bytes(types);
    }
  });
  const taken = [undefined, ...imports];
  section(module, 2, taken, (to, imported, at) => {
    text(to, 'env');
    text(to, imported?.name ?? 'memory');
    // The memory is of a page at least; a function is of the type of its place.
    to.bytes(imported ? [0x00] : [0x02, 0x00]);
    to.unsigned(imported ? at - 1 : 1);
  });
  section(module, 3, own, (to, _, at) => to.unsigned(imports.length + at));
  section(module, 7, own, (to, { name }, at) => {
    text(to, name);
    to.byte(0x00);
    to.unsigned(imports.length + at);
  });
  section(module, 10, own, (to, { locals, code }) => {
    const body = new ByteWriter();
    body.unsigned(locals.length);
    for (const { count, type } of locals) {
      body.unsigned(count);
      body.byte(type);
    }
    body.bytes(code.written());
    body.byte(END);
    to.sized(body);
  });
  return module.written();
}

const END = 0x0b;

function section<T>(module: ByteWriter, id: number, items: readonly T[], write: (to: ByteWriter, item: T, at: number) => void): void {
  const content = new ByteWriter();
  content.unsigned(items.length);
  items.forEach((item, at) => write(content, item, at));
  module.byte(id);
  module.sized(content);
}

function text(to: ByteWriter, words: string): void {
  to.unsigned(words.length);
  for (const letter of words) to.byte(letter.charCodeAt(0));
}
