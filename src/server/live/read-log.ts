/**
 * Notes what is read, so that what was made of it is made again only when some of it is another. What is read is compared by
 * identity: documents, rows and frames are replaced, never changed in place.
 */
export class ReadLog {
  private readonly reads: { again: () => unknown; was: unknown }[] = [];

  /** Reads something, and notes what it was. */
  read<T>(again: () => T): T {
    const was = again();
    this.reads.push({ again, was });
    return was;
  }

  /** Whether all that was read is as it was. */
  get isCurrent(): boolean {
    return this.reads.every(({ again, was }) => Object.is(again(), was));
  }
}
