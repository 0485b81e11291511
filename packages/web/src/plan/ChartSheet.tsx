/** A chart with its numbers: as a table for those who would rather read, or cannot see it, and as a file. */
import { useId, useState, type ReactNode } from 'react';
import Button from '@mui/material/Button';
import { saveCsv } from '../parts/saveCsv';

interface Props {
  title: string;
  /** What it says, in a sentence. */
  words: string;
  columns: readonly string[];
  rows: readonly (readonly (string | number)[])[];
  /** Name of the file, without its ending. */
  file: string;
  children: ReactNode;
}

export function ChartSheet({ title, words, columns, rows, file, children }: Props) {
  const [asTable, setAsTable] = useState(false);
  const id = useId();
  const named = () => rows.map((row) => Object.fromEntries(columns.map((column, i) => [column, row[i]!])));
  return (
    <section className="sheet chart-sheet" aria-labelledby={id}>
      <h2 id={id}>{title}</h2>
      <p className="small">{words}</p>
      {!asTable && (
        <div className="chart" aria-hidden>
          {children}
        </div>
      )}
      <div className={asTable ? 'chart-table' : 'hidden-text'} tabIndex={asTable ? 0 : undefined}>
        <table>
          <thead>
            <tr>
              {columns.map((column) => (
                <th key={column} scope="col">
                  {column}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([first, ...others]) => (
              <tr key={first}>
                <th scope="row">{first}</th>
                {others.map((cell, i) => (
                  <td key={columns[i + 1]}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="chart-acts">
        <Button
          variant="outlined"
          aria-label={`${asTable ? 'Chart' : 'Table'}: ${title}`}
          onClick={() => setAsTable(!asTable)}
        >
          {asTable ? 'Chart' : 'Table'}
        </Button>
        <Button variant="outlined" aria-label={`CSV: ${title}`} onClick={() => void saveCsv(`${file}.csv`, named())}>
          CSV
        </Button>
      </p>
    </section>
  );
}
