import { Link } from 'react-router';
import { formatBytes } from '@rellin/core/units';
import { usePlaces, usePrograms, useStandardFolders } from '../api/queries';
import { ago } from '../parts/dates';
import { roving } from '../parts/Roving';
import { Tether } from '../parts/Tether';

/** The places and the list of programs, side by side; below them the user's standard folders. */
export function PlaceTiles({ current }: { current: number | 'programs' | undefined }) {
  const places = usePlaces().data ?? [];
  const programs = usePrograms().data;
  const standard = useStandardFolders().data ?? [];
  return (
    <nav aria-label="Places" className="places" {...roving}>
      <ul className="place-tiles">
        {places.map((p) => (
          <li key={p.id}>
            <Link
              to={`/originals/${p.id}/1`}
              className={`tile ${p.state}`}
              aria-current={current === p.id ? 'page' : undefined}
            >
              <b className="cut">
                {p.state === 'away' && <Tether state="away" />} {p.name}
              </b>
              <span className="small cut">
                {p.state === 'away'
                  ? p.lastSeenAt
                    ? `last seen ${ago(p.lastSeenAt)}`
                    : p.awayReason
                  : p.freeBytes === null
                    ? ''
                    : `${formatBytes(p.freeBytes)} free`}
              </span>
            </Link>
          </li>
        ))}
        <li>
          <Link to="/originals/programs" className="tile" aria-current={current === 'programs' ? 'page' : undefined}>
            <b>Programs</b>
            <span className="small">{programs?.length ?? ''}</span>
          </Link>
        </li>
      </ul>
      {standard.length > 0 && (
        <ul className="standard-folders" aria-label="Standard folders">
          {standard.map((s) => (
            <li key={`${s.placeId}/${s.originalId}`}>
              <Link className="chip" to={`/originals/${s.placeId}/${s.originalId}`}>
                {s.name}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </nav>
  );
}
