/** Why a file cannot be read, as a sentence. */
export class FileFault extends Error {}

/**
 * The rows of a file as separated text. Text is read as UTF-8, else UTF-16 by its mark, else Windows-1252, as
 * spreadsheets write them; of a workbook (XLSX) the first sheet is taken, with what its formulas came to.
 */
export async function readText(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  // A workbook is a ZIP archive, whatever its name.
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return readWorkbook(file);
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

async function readWorkbook(file: File): Promise<string> {
  const [{ readSheet }, { stringify }] = await Promise.all([
    import('read-excel-file/browser'),
    import('csv-stringify/browser/esm/sync'),
  ]);
  const rows = await readSheet(file).catch(() => {
    throw new FileFault(
      `${file.name} is not a workbook that can be read. Save the sheet as CSV and bring that.`,
    );
  });
  return stringify(
    rows.map((row) =>
      row.map((cell) => (cell instanceof Date ? cell.toISOString().slice(0, 10) : String(cell ?? ''))),
    ),
  );
}
