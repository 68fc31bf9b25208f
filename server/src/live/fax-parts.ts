const largestFax = 20 * 1024 * 1024;
/** Of all gateways together. */
const mostHeld = 4 * largestFax;

/** The files of faxes as they come in, part by part, bounded: of one fax, and of all that are coming in. */
export class FaxParts {
  private readonly parts = new Map<string, Buffer[]>();
  private held = 0;

  /** Keeps a part. A sentence when it cannot; what came before of this fax is dropped then. */
  add(callId: string, base64: string): string | null {
    const part = Buffer.from(base64, 'base64');
    const before = this.parts.get(callId) ?? [];
    if (sizeOf(before) + part.length > largestFax) return this.refuse(callId, 'A fax has at most 20 MB.');
    if (this.held + part.length > mostHeld)
      return this.refuse(callId, 'Too many faxes come in at once. Send this one again in a moment.');
    this.parts.set(callId, [...before, part]);
    this.held += part.length;
    return null;
  }

  /** The whole file, when all its parts came and are a PDF; else why not. */
  take(callId: string, last: string): Buffer | string {
    const fault = this.add(callId, last);
    if (fault !== null) return fault;
    const file = Buffer.concat(this.parts.get(callId) ?? []);
    this.drop(callId);
    return file.subarray(0, 5).toString('latin1') === '%PDF-' ? file : 'A fax comes as a PDF.';
  }

  /** The call is over, whatever came of it. */
  drop(callId: string): void {
    this.held -= sizeOf(this.parts.get(callId) ?? []);
    this.parts.delete(callId);
  }

  private refuse(callId: string, why: string): string {
    this.drop(callId);
    return why;
  }
}

function sizeOf(parts: Buffer[]): number {
  return parts.reduce((sum, part) => sum + part.length, 0);
}
