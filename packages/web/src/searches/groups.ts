/** Answers laid out in groups; pure. */
import type { AnswerView, SearchShape } from '@rellin/contract';
import { kindRank, kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';

export interface AnswerGroup {
  id: string;
  title: string;
  answers: AnswerView[];
}

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);
const month = new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric' });

/** In the order of kinds, latest months first, places and folders as they first occur. One group for plain shapes. */
export function groupAnswers(answers: readonly AnswerView[], shape: SearchShape): AnswerGroup[] {
  const keyOf = (a: AnswerView): { id: string; title: string; rank: number } => {
    switch (shape) {
      case 'by-kind':
        return { id: a.kind, title: capital(kindWord(a.kind)), rank: kindRank(a.kind) };
      case 'by-month': {
        const at = new Date(a.modified);
        const rank = at.getFullYear() * 12 + at.getMonth();
        return { id: String(rank), title: month.format(at), rank: -rank };
      }
      case 'by-place':
        return { id: String(a.placeId), title: shown(a.trail[0] ?? ''), rank: 0 };
      case 'folders':
        return { id: `${a.placeId}/${a.trail.join('/')}`, title: a.trail.map(shown).join(' › '), rank: 0 };
      default:
        return { id: 'all', title: '', rank: 0 };
    }
  };
  const groups = new Map<string, AnswerGroup & { rank: number }>();
  for (const a of answers) {
    const { id, title, rank } = keyOf(a);
    const known = groups.get(id);
    if (known) known.answers.push(a);
    else groups.set(id, { id, title, rank, answers: [a] });
  }
  return [...groups.values()]
    .sort((a, b) => a.rank - b.rank)
    .map(({ id, title, answers: of }) => ({ id, title, answers: of }));
}
