import { DatabaseError } from 'sequelize';

/** Raised when the database does not answer: the action is not done, and will not be done later either. */
export class StoreDown extends Error {}

/** How long the database may take over one thing, in ms. */
export const PATIENCE = 2000;

/** What is worked at, if it is done in time. Throws a StoreDown if not; what it comes to then is nobody's. */
export async function inTime<T>(work: Promise<T>): Promise<T> {
  work.catch(() => {});
  let timer: NodeJS.Timeout | undefined;
  const patience = new Promise<never>((_, no) => {
    timer = setTimeout(() => no(new StoreDown()), PATIENCE);
  });
  try {
    return await Promise.race([work, patience]);
  } finally {
    clearTimeout(timer);
  }
}

/** Raised when the database has no room to write: the action is not done. */
export class DiskFull extends Error {}

/** What MariaDB says when there is no room: the disk or a table is full, or the storage engine met ENOSPC. */
const isFull = (error: Error) =>
  error instanceof DatabaseError &&
  ([1021, 1114].includes((error.original as { errno?: number }).errno ?? 0) ||
    /No space left|errno: 28|disk full|is full/i.test(error.message));

/** What the database said no for, as one of ours where it is known. */
export const told = (error: Error) => (isFull(error) ? new DiskFull(error.message, { cause: error }) : error);

/** What MariaDB says of a table that it cannot read or find: no such file, a page that is none, an index that does not lead to its rows. */
const DAMAGED =
  /corrupt|crashed|doesn't exist|tablespace|incorrect (key file|information)|can't (open|find) file|read page|storage engine/i;

/** The table that an error of the database is about, where that is damaged or gone; null for any other error. */
export function damagedTable(error: unknown): string | null {
  if (!(error instanceof DatabaseError) || !DAMAGED.test(error.message)) return null;
  const named = /(?:FROM|INTO|UPDATE|TABLE(?: IF (?:NOT )?EXISTS)?|JOIN)\s+(?:`?\w+`?\.)?`?(\w+)/i.exec(
    error.sql ?? '',
  );
  return named?.[1] ?? 'unknown';
}

/** Why something could not be written, as a sentence for whoever asked. */
export function whyNotWritten(error: unknown): { status: number; reason: string } {
  if (error instanceof StoreDown)
    return {
      status: 503,
      reason:
        'The database is not answering, so nothing was changed. What is on air goes on. Try again when it is back.',
    };
  if (error instanceof DiskFull || (error instanceof Error && isFull(error)))
    return {
      status: 507,
      reason:
        'The disk is full, so nothing was changed. What is on air goes on. Make room on the disk, then try again.',
    };
  const table = damagedTable(error);
  if (table !== null)
    return {
      status: 500,
      reason: `The table "${table}" of the database is damaged, so nothing was changed. What is on air goes on. Put back a copy of the data folder when there is time.`,
    };
  return { status: 500, reason: 'Something went wrong on the server, so nothing was changed.' };
}
