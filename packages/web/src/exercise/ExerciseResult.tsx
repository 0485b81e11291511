/** What was measured, each point of it, with the line through it and the constants it gives. */
import { Chart, LinearScale, LineController, LineElement, PointElement, ScatterController } from 'chart.js';
import { Scatter } from 'react-chartjs-2';
import Button from '@mui/material/Button';
import { useTheme } from '@mui/material/styles';
import { fitExercise, fittedConstants, type Done, type Part, type PartFit } from '@rellin/core/exercise';
import { REACH_WORDS, type ReachConstants } from '@rellin/core/reach';
import { TEXT_FONT } from '../theme/theme';

Chart.register(LinearScale, LineController, LineElement, PointElement, ScatterController);

const WORDS: Record<Part, { title: string; x: string; each: string }> = {
  taps: { title: 'Tapping', x: 'bits of difficulty', each: 'a bit' },
  choices: { title: 'Choosing', x: 'entries', each: 'an entry' },
  typed: { title: 'Typing', x: 'letters', each: 'a letter' },
};
const REASONS: Record<PartFit['reason'], string> = {
  ok: '',
  'too-few': 'Skipped: its constants stay as they are.',
  'no-law': 'No law shows in this; its constants stay as they are.',
};

interface Props {
  done: Done;
  constants: ReachConstants;
  onUse(constants: Partial<ReachConstants>): void;
  onClose(): void;
}

export function ExerciseResult({ done, constants, onUse, onClose }: Props) {
  const fits = fitExercise(done, constants);
  const found = fittedConstants(fits);
  const names = Object.keys(found) as (keyof ReachConstants)[];
  return (
    <>
      <div className="fits">
        {fits.map((fit) => (
          <Fit key={fit.part} fit={fit} />
        ))}
      </div>
      {names.length === 0 ? (
        <p>Nothing was measured that would change a constant.</p>
      ) : (
        <table className="found">
          <thead>
            <tr>
              <th scope="col">Constant</th>
              <th scope="col">Now</th>
              <th scope="col">Yours</th>
            </tr>
          </thead>
          <tbody>
            {names.map((name) => (
              <tr key={name}>
                <th scope="row">{REACH_WORDS[name]}</th>
                <td>{constants[name].toFixed(3)} s</td>
                <td>{found[name]!.toFixed(3)} s</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="exercise-end">
        <Button variant="outlined" onClick={onClose}>
          Leave them as they are
        </Button>
        <Button variant="contained" disabled={names.length === 0} onClick={() => onUse(found)}>
          Use yours
        </Button>
      </div>
    </>
  );
}

function Fit({ fit: { part, points, line, reason } }: { fit: PartFit }) {
  const { palette } = useTheme();
  const { title, x, each } = WORDS[part];
  const xs = points.map((p) => p.x);
  const ends = line
    ? [Math.min(...xs), Math.max(...xs)].map((at) => ({ x: at, y: line.intercept + line.slope * at }))
    : [];
  const words =
    reason === 'ok' && line
      ? [
          `${line.intercept.toFixed(2)} s and ${line.slope.toFixed(3)} s ${each};`,
          `${Math.round(line.explained * 100)} % explained, ± ${line.scatter.toFixed(2)} s`,
        ]
      : [REASONS[reason]];
  const scale = (text: string) => ({
    title: { display: true, text, color: palette.text.secondary, font: { family: TEXT_FONT, size: 11.5 } },
    beginAtZero: true,
    grid: { color: palette.divider },
    border: { display: false },
    ticks: { color: palette.text.secondary, maxTicksLimit: 5, font: { family: TEXT_FONT, size: 11.5 } },
  });
  return (
    <section aria-label={title}>
      <h3>{title}</h3>
      {points.length > 0 && (
        <div className="fit-chart">
          <Scatter
            aria-label={`${title}: ${points.length} points; ${words.join(' ')}`}
            data={{
              datasets: [
                { data: points, pointRadius: 2.5, backgroundColor: palette.text.secondary },
                {
                  data: reason === 'ok' ? ends : [],
                  showLine: true,
                  pointRadius: 0,
                  borderWidth: 2,
                  borderColor: palette.primary.main,
                },
              ],
            }}
            options={{
              animation: false,
              responsive: true,
              maintainAspectRatio: false,
              plugins: { legend: { display: false } },
              scales: { x: scale(x), y: scale('seconds') },
            }}
          />
        </div>
      )}
      {words.map((part) => (
        <p key={part} className="small">
          {part}
        </p>
      ))}
    </section>
  );
}
