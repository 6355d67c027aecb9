import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { parseHead, TapeReader, writeEntry, writeHead, type Tape } from '../../core/tape/tape.ts';

const inflate = promisify(gunzip);
const deflate = promisify(gzip);

/** The most that one tape may hold, uncompressed, in bytes. */
export const LARGEST_TAPE = 512_000_000;
/** The size of a part before it is compressed, in characters. */
const PART = 1_000_000;
/** After so many lines other work gets its turn. */
const TURN = 500;

/** What is no tape that can be used, as a sentence. */
export class TapeProblem extends Error {}

const turn = () => new Promise((go) => setImmediate(go));

/** Whole lines as a part of a tape. Each is a gzip member, so parts one after another are one gzip file (RFC 1952). */
export const pack = (lines: readonly string[]): Promise<Uint8Array> => deflate(`${lines.join('\n')}\n`);

/** A whole tape as parts. */
export async function* partsOf(tape: Tape): AsyncGenerator<Uint8Array> {
  let lines = [writeHead(tape.head)];
  let length = 0;
  for (const entry of tape.entries) {
    const line = writeEntry(entry);
    lines.push(line);
    length += line.length;
    if (length < PART) continue;
    yield await pack(lines);
    lines = [];
    length = 0;
  }
  if (lines.length) yield await pack(lines);
}

/** A tape's parts with another name in its head, which is the first line of the first. */
export async function* named(parts: AsyncIterable<Uint8Array>, name: string): AsyncGenerator<Uint8Array> {
  let first = true;
  for await (const part of parts) {
    if (!first) {
      yield part;
      continue;
    }
    first = false;
    const [head = '', ...lines] = (await inflate(part)).toString('utf8').trimEnd().split('\n');
    const parsed = parseHead(head);
    yield parsed.ok ? await pack([writeHead({ ...parsed.value, name }), ...lines]) : part;
  }
}

/**
 * Reads a tape from its parts, each gzip of whole lines, giving way to other work again and again. Throws a
 * TapeProblem that names the line.
 */
export async function readTape(parts: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Promise<Tape> {
  const reader = new TapeReader();
  let size = 0;
  let number = 0;
  for await (const part of parts) {
    const bytes = await inflate(part, { maxOutputLength: LARGEST_TAPE }).catch(() => {
      throw new TapeProblem('It cannot be unpacked: it is damaged, or no gzip file');
    });
    size += bytes.length;
    if (size > LARGEST_TAPE) throw new TapeProblem(`It is larger than ${LARGEST_TAPE / 1e6} MB`);
    for (const line of bytes.toString('utf8').split('\n')) {
      const problem = reader.push(line);
      if (problem) throw new TapeProblem(`It is no tape that can be read: ${problem}`);
      if (++number % TURN === 0) await turn();
    }
  }
  const tape = reader.end();
  if (!tape.ok) throw new TapeProblem(`It is no tape that can be read: ${tape.problems[0]}`);
  return tape.value;
}

/** Reads a file that was brought in: a tape as exported, compressed or not. */
export async function readTapeFile(bytes: Uint8Array): Promise<Tape> {
  const packed = bytes[0] === 0x1f && bytes[1] === 0x8b;
  return readTape([packed ? bytes : await deflate(bytes)]);
}
