/** Several things to be added, a line for each with what it means; what leads nowhere is marked before it is sent. */
import Button from '@mui/material/Button';
import { shown } from '@rellin/core/paths';
import { MeantText, useMeant } from './meant';

export function AddLines({
  lines,
  onLines,
  wrong,
}: {
  lines: readonly string[];
  onLines(lines: string[]): void;
  wrong: string | undefined;
}) {
  return (
    <div>
      <ul className="add-lines sheet" aria-label="What they point to">
        {lines.map((line) => (
          <li key={line}>
            <Line text={line} />
            <Button size="small" onClick={() => onLines(lines.filter((other) => other !== line))}>
              Leave out
            </Button>
          </li>
        ))}
      </ul>
      {wrong && (
        <p className="small meant-none" role="alert">
          {wrong}
        </p>
      )}
    </div>
  );
}

function Line({ text }: { text: string }) {
  const answer = useMeant(text);
  return (
    <span className="line">
      <span className="mono cut" title={shown(text)}>
        {shown(text)}
      </span>
      <span className={`small cut${answer && !answer.meant ? ' meant-none' : ''}`}>
        {answer === undefined ? '…' : <MeantText answer={answer} />}
      </span>
    </span>
  );
}
