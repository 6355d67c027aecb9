import { createHash } from 'node:crypto';
import { XMLBuilder } from 'fast-xml-parser';
import Papa from 'papaparse';
import { isClock } from '../../core/board/values.ts';
import { clockAt, clockText } from '../../core/clock/clock.ts';
import { clockFormOf } from '../../core/sport/typed.ts';
import type { Board, Quality } from '../../core/board/board.ts';

/** One field as other programs read it. */
export interface FieldReadout {
  key: string;
  label: string;
  kind: string;
  /** A clock's is its milliseconds; blank is null. */
  value: string | number | boolean | null;
  /** As it is written on a picture. */
  text: string;
  running?: boolean;
  origin: string;
  quality: Quality;
  pinned: boolean;
}

export interface Readout {
  type: string;
  body: string;
  etag: string;
}

/** The board's fields as other programs read them, at server time `now`: what is on air, pins included. */
export function readFields(board: Board, now: number): FieldReadout[] {
  return [...board.fields].map((def) => {
    const state = board.state(def.key)!;
    const value = board.read(def.key);
    const common = { key: def.key, label: def.label, kind: def.kind };
    const trust = { origin: state.origin, quality: state.quality, pinned: state.pin !== undefined };
    if (!isClock(value)) return { ...common, value, text: value === null ? '' : String(value), ...trust };
    const ms = Math.round(clockAt(value, now));
    return { ...common, value: ms, text: clockText(ms, clockFormOf(def)), running: value.running, ...trust };
  });
}

/** A read-out with a tag that changes when its body does. */
export function readout(type: string, body: string): Readout {
  return { type, body, etag: `"${createHash('sha1').update(body).digest('base64url')}"` };
}

/**
 * All fields in one open format, or null for a format that is not offered. In a rehearsal it says so, with the tape's
 * name, where the format has a place for it.
 */
export function allFields(
  board: Board,
  format: string,
  now: number,
  rehearsal: string | null = null,
): Readout | null {
  const fields = readFields(board, now);
  switch (format) {
    case 'json':
      return readout(
        'application/json',
        JSON.stringify({ seq: board.seq, ...(rehearsal && { rehearsal }), fields }, null, 1),
      );
    case 'xml': {
      const builder = new XMLBuilder({
        ignoreAttributes: false,
        attributeNamePrefix: '@',
        textNodeName: '#',
        format: true,
        suppressEmptyNode: true,
        suppressBooleanAttributes: false,
      });
      const field = fields.map(({ text, ...rest }) => ({
        ...Object.fromEntries(Object.entries(rest).map(([k, v]) => [`@${k}`, String(v ?? '')])),
        '#': text,
      }));
      return readout(
        'application/xml',
        `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build({ fields: { '@seq': String(board.seq), ...(rehearsal && { '@rehearsal': rehearsal }), field } })}`,
      );
    }
    case 'csv': {
      const rows = fields.map((f) => ({ ...f, running: f.running ?? '' }));
      const columns = ['key', 'label', 'kind', 'value', 'text', 'running', 'origin', 'quality', 'pinned'];
      return readout('text/csv', `${Papa.unparse(rows, { columns })}\r\n`);
    }
    default:
      return null;
  }
}

/** One field's text, or null when the board has no such field. */
export function oneField(board: Board, key: string, now: number): Readout | null {
  const field = readFields(board, now).find((f) => f.key === key);
  return field ? readout('text/plain', field.text) : null;
}
