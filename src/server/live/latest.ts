/** The latest of what is kept under names: so many, the oldest goes first. */
export class Latest<T> extends Map<string, T> {
  constructor(private readonly most: number) {
    super();
  }

  keep(name: string, what: T): void {
    this.set(name, what);
    for (const oldest of this.keys()) {
      if (this.size <= this.most) break;
      this.delete(oldest);
    }
  }
}
