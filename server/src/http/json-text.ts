/** An answer that is JSON already: it is sent as it is, without being made into text once for each who asks. */
export class JsonText {
  readonly text: string;

  constructor(text: string) {
    this.text = text;
  }
}
