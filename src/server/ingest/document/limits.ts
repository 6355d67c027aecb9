/** Why a document could not be read: one sentence, with the excerpt that offended where there is one. */
export class DocumentProblem extends Error {}

/** How large a document may be once it is understood; larger ones are refused before they are built. */
export const DEEPEST = 200;
export const MOST_NODES = 1_500_000;
export const MOST_ROWS = 100_000;
export const MOST_COLUMNS = 1000;

/** Counts what is built of one document, and refuses it where that is too much. */
export class Measure {
  private nodes = 0;

  /** So many elements or cells more. */
  add(nodes: number): void {
    this.nodes += nodes;
    if (this.nodes > MOST_NODES)
      throw new DocumentProblem(`It has more than ${MOST_NODES} elements or cells`);
  }

  columns(count: number): void {
    if (count > MOST_COLUMNS)
      throw new DocumentProblem(`It has ${count} columns; ${MOST_COLUMNS} is the limit`);
  }
}
