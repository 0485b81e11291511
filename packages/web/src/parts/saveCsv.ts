/** Hands the person rows as a file of comma-separated values (RFC 4180). */
export async function saveCsv(name: string, rows: Record<string, string | number>[]): Promise<void> {
  const { default: Papa } = await import('papaparse');
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([Papa.unparse(rows)], { type: 'text/csv' }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
