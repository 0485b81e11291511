import { Link } from 'react-router';
import CircularProgress from '@mui/material/CircularProgress';
import IconButton from '@mui/material/IconButton';
import StopCircleOutlined from '@mui/icons-material/StopCircleOutlined';
import { useActivity, usePlaces } from '../api/queries';
import { post } from '../api/client';
import { FindLine } from '../find/FindLine';
import { useCommands } from '../workspace/useCommands';
import { roving } from '../parts/Roving';
import { Tether } from '../parts/Tether';

const number = new Intl.NumberFormat('en-GB');

export function Header({ line }: { line: 'open' | 'lost' }) {
  const activity = useActivity().data ?? [];
  const away = (usePlaces().data ?? []).filter((p) => p.state === 'away');
  const d = useCommands();
  const work = activity[0];
  return (
    <header className="header" {...roving}>
      <Link to="/" className="mark" aria-label="Rellin, start">
        <Tether state="ready" title="" />
        <span>Rellin</span>
      </Link>
      <FindLine />
      <div className="header-right" aria-live="polite">
        {line === 'lost' && <span className="chip attention">Rellin does not answer; trying again</span>}
        {work && (
          <span className="activity small">
            <CircularProgress
              size={14}
              thickness={6}
              variant={work.total ? 'determinate' : 'indeterminate'}
              value={work.total ? Math.min(100, (100 * work.done) / work.total) : undefined}
              aria-label={work.title}
            />
            {work.title} {number.format(work.done)}
            {work.total ? ` of ${number.format(work.total)}` : ''}
            {work.canStop && (
              <IconButton
                size="small"
                aria-label={`Stop: ${work.title}`}
                onClick={() => void d.attempt(() => post(`/activity/${work.id}/stop`))}
              >
                <StopCircleOutlined sx={{ fontSize: 16 }} />
              </IconButton>
            )}
          </span>
        )}
        {away.map((p) => (
          <Link key={p.id} to={`/originals/${p.id}/1`} className="away-place small">
            <Tether state="away" title="" /> {p.name} away
          </Link>
        ))}
        <Link to="/settings" className="settings-link">
          Settings
        </Link>
      </div>
    </header>
  );
}
