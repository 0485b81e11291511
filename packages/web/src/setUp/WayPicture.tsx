/** The two ways of working, drawn: a list in order, and a plane on which things lie in regions. */
import type { WayOfWorking } from '@rellin/contract';

export function WayPicture({ way }: { way: WayOfWorking }) {
  return (
    <svg className="way-picture" viewBox="0 0 150 74" aria-hidden>
      {way === 'rows' ? <Rows /> : <Board />}
    </svg>
  );
}

function Rows() {
  return (
    <>
      {[0, 1, 2, 3].map((i) => (
        <rect key={`cap-${i}`} className="tint" x={6 + i * 36} y="5" width="31" height="12" rx="3" />
      ))}
      {[0, 1, 2, 3].map((i) => (
        <g key={i}>
          <circle className="mark" cx="11" cy={29 + i * 12} r="2.4" />
          <rect className="text" x="19" y={27 + i * 12} width={[58, 44, 66, 38][i]} height="4" rx="2" />
          <rect className="faint" x="104" y={27 + i * 12} width="40" height="4" rx="2" />
        </g>
      ))}
    </>
  );
}

function Board() {
  return (
    <>
      <path className="rule" d="M6 14.5H144M6 48.5H144" />
      <rect className="text" x="6" y="5" width="34" height="4" rx="2" />
      <rect className="text" x="6" y="39" width="26" height="4" rx="2" />
      {[0, 1, 2].map((i) => (
        <g key={i}>
          <rect className="tint" x={8 + i * 46} y="19" width="40" height="14" rx="3" />
          <rect className="faint" x={14 + i * 46} y="24" width="26" height="4" rx="2" />
        </g>
      ))}
      {[0, 2].map((i) => (
        <g key={i}>
          <rect className="tint" x={8 + i * 46} y="53" width="40" height="14" rx="3" />
          <rect className="faint" x={14 + i * 46} y="58" width="26" height="4" rx="2" />
        </g>
      ))}
    </>
  );
}
