/** First in first out. Its room is kept from event to event. */
export class WorkList<Work> {
  private readonly items: (Work | null)[] = [];
  private first = 0;
  private end = 0;

  get isEmpty(): boolean {
    return this.first === this.end;
  }

  push(work: Work): void {
    this.items[this.end++] = work;
  }

  /** The next to be done; null when all is, and the list begins anew. */
  take(): Work | null {
    if (this.first === this.end) {
      this.first = 0;
      this.end = 0;
      return null;
    }
    const work = this.items[this.first]!;
    this.items[this.first++] = null;
    return work;
  }
}
