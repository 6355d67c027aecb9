import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { QueryTypes, type Sequelize } from 'sequelize';
import { pack } from '../tape/lines.ts';

const inflate = promisify(gunzip);

/** JSON in which each web address's header says that a value is kept, in place of the value. Gives what it was given where there is none. */
export function withoutValues(json: unknown): unknown {
  if (Array.isArray(json)) {
    const members = json.map(withoutValues);
    return members.some((m, i) => m !== json[i]) ? members : json;
  }
  if (typeof json !== 'object' || json === null) return json;
  const { kind, header } = json as { kind?: unknown; header?: { name?: unknown; value?: unknown } | null };
  if (kind === 'http' && header && typeof header.value === 'string' && header.value !== '')
    return { ...json, header: { name: header.name, value: '', kept: true } };
  const entries = Object.entries(json).map(([key, value]): [string, unknown] => [key, withoutValues(value)]);
  const was = json as Record<string, unknown>;
  return entries.some(([key, value]) => value !== was[key]) ? Object.fromEntries(entries) : json;
}

/** A line of JSON without such values; as it is where it holds none or is no JSON. */
export function cleanedLine(line: string): string {
  if (!line.includes('"header"')) return line;
  try {
    const json = JSON.parse(line) as unknown;
    const clean = withoutValues(json);
    return clean === json ? line : JSON.stringify(clean);
  } catch {
    return line;
  }
}

/** Takes the values of feeds' headers out of the actions' record and out of all tapes. */
export async function cleanSecrets(sequelize: Sequelize): Promise<void> {
  const select = { type: QueryTypes.SELECT } as const;
  const actions = await sequelize.query<{ seq: number; body: string }>(
    "SELECT seq, body FROM actions WHERE kind = 'source'",
    select,
  );
  for (const { seq, body } of actions) {
    const clean = cleanedLine(body);
    if (clean !== body)
      await sequelize.query('UPDATE actions SET body = ? WHERE seq = ?', { replacements: [clean, seq] });
  }
  const parts = await sequelize.query<{ tape: string; part: number }>(
    'SELECT tape, part FROM tape_parts',
    select,
  );
  for (const { tape, part } of parts) {
    const where = { replacements: [tape, part] };
    const [row] = await sequelize.query<{ bytes: Buffer }>(
      'SELECT bytes FROM tape_parts WHERE tape = ? AND part = ?',
      { ...select, ...where },
    );
    // One that cannot be unpacked cannot be played either; it is left for whoever looks into it.
    const text = row && (await inflate(row.bytes).catch(() => null))?.toString('utf8').trimEnd();
    if (!text) continue;
    const clean = text.split('\n').map(cleanedLine);
    if (clean.join('\n') === text) continue;
    await sequelize.query('UPDATE tape_parts SET bytes = ? WHERE tape = ? AND part = ?', {
      replacements: [Buffer.from(await pack(clean)), tape, part],
    });
  }
}
