import type { Logger } from 'pino';
import { DocumentProblem } from '../ingest/document/limits.ts';
import { DiskFull, StoreDown, whyNotWritten, type Store } from '../store/store.ts';

/** Does work that takes something in and keeps it; gives what came of it, or why it was not taken. */
export async function importing<T>(
  store: Pick<Store, 'ok' | 'full'>,
  logger: Logger,
  work: () => Promise<T>,
): Promise<T | { status: number; reason: string }> {
  if (store.full) return whyNotWritten(new DiskFull());
  if (!store.ok) return whyNotWritten(new StoreDown());
  try {
    return await work();
  } catch (error) {
    if (error instanceof DocumentProblem) return { status: 415, reason: `${error.message}.` };
    logger.error({ err: error }, 'what was brought in could not be kept');
    const why = whyNotWritten(error);
    if (store.full) return whyNotWritten(new DiskFull());
    return store.ok ? why : whyNotWritten(new StoreDown());
  }
}
