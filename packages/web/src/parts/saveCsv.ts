/**
 * Hands the person rows as a file of comma-separated values (RFC 4180). A name that a spreadsheet would take for a
 * formula is kept from being one by an apostrophe: names come from files, and anybody names a file.
 */
export async function saveCsv(name: string, rows: Record<string, string | number>[]): Promise<void> {
  const { default: Papa } = await import('papaparse');
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([Papa.unparse(rows, { escapeFormulae: true })], { type: 'text/csv' }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
