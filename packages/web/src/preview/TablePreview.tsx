import { useMemo } from 'react';
import Papa from 'papaparse';
import type { TextProps } from './textProps';

const MOST_ROWS = 1000;

/** CSV and TSV as a table; the first row is taken as its head. */
export default function TablePreview({ text, name }: TextProps) {
  const { head, rows, total } = useMemo(() => {
    const parsed = Papa.parse<string[]>(text, { skipEmptyLines: true, delimiter: /\.tsv$/i.test(name) ? '\t' : '' });
    const [head = [], ...rows] = parsed.data;
    return { head, rows: rows.slice(0, MOST_ROWS), total: rows.length };
  }, [text, name]);
  return (
    <>
      {total > MOST_ROWS && (
        <p className="preview-note">
          The first {MOST_ROWS} of {total} rows.
        </p>
      )}
      <div className="preview-table" tabIndex={0} role="region" aria-label="Table">
        <table>
          <thead>
            <tr>
              {head.map((cell, i) => (
                <th key={i} scope="col">
                  {cell}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={i}>
                {row.map((cell, k) => (
                  <td key={k}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
