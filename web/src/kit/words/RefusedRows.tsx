import type { ShelfImport } from '../../model/api/types';
import { Words } from '../primitives';

/** Rows of a file that were not taken in, each with its place and why. */
export function RefusedRows({
  label,
  rows,
}: {
  readonly label: string;
  readonly rows: ShelfImport['refused'];
}) {
  return (
    <ul aria-label={label}>
      {rows.map((row) => (
        <li key={`${row.where} ${row.column} ${row.message}`}>
          <Words size="small" tone="fails">
            <b>
              {row.where.charAt(0).toUpperCase() + row.where.slice(1)}
              {row.column && `, ${row.column}`}:
            </b>{' '}
            {row.message}
          </Words>
        </li>
      ))}
    </ul>
  );
}
