/** A fax of so many pages as the smallest PDF that says so (ISO 32000-1, 7.5): objects, their places, a trailer. */
export function faxFile(pages: number): string {
  const objects: string[] = [];
  const kids = Array.from({ length: pages }, (_, index) => `${4 + index * 2} 0 R`).join(' ');
  objects.push('<< /Type /Catalog /Pages 2 0 R >>');
  objects.push(`<< /Type /Pages /Kids [${kids}] /Count ${pages} >>`);
  objects.push('<< /Type /Font /Subtype /Type1 /BaseFont /Courier >>');
  for (let page = 1; page <= pages; page++) {
    const text = `BT /F1 18 Tf 72 720 Td (Fax of the stand-in, page ${page} of ${pages}) Tj ET`;
    const resources = '/Resources << /Font << /F1 3 0 R >> >>';
    objects.push(
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 612 792] ${resources} /Contents ${objects.length + 2} 0 R >>`,
    );
    objects.push(`<< /Length ${text.length} >>\nstream\n${text}\nendstream`);
  }
  let file = '%PDF-1.4\n';
  const places = objects.map((object, index) => {
    const at = file.length;
    file += `${index + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const table = places.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  return `${file}xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${file.length}\n%%EOF\n`;
}
