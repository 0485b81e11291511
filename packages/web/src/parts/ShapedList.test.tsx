/** One list in several shapes: the same names, acts and keys in each, and the shape is remembered. */
import { useState } from 'react';
import { describe, expect, it } from '@jest/globals';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ListShape } from '@rellin/contract';
import { anEntry, renderPage, SETTINGS } from '../testing/page';
import { picturedEntry } from './pictured';
import { FOLDER_SHAPE_WORDS, SHAPE_WORDS } from './listShapes';
import { ShapeChip, ShapedList } from './ShapedList';
import { useListShape } from './useListShape';

const entries = ['diary.md', 'map.png', 'tides.csv'].map((name, i) => anEntry(i + 1, name));
const done: string[] = [];

function List({ shape }: { shape: ListShape }) {
  const [selected, setSelected] = useState<number>();
  return (
    <ShapedList
      shape={shape}
      label="Things"
      columns={[{ id: 'name', title: 'Name', width: '1fr', cell: (e) => e.name }]}
      count={entries.length}
      item={(i) => entries[i]}
      keyOf={(e) => e.id}
      nameOf={(e) => e.name}
      selectedKey={selected}
      onSelect={(e) => setSelected(e.id)}
      onOpen={(e) => done.push(`opened ${e.name}`)}
      onKey={(event, e) => event.key === 'p' && (done.push(`p ${e.name}`), true)}
      pictureOf={picturedEntry}
      factsOf={(e) => e.kind}
      dragged={(_, content) => content}
      preview={(e) => <p>all of {e?.name}</p>}
    />
  );
}

describe('a list', () => {
  it.each(Object.keys(SHAPE_WORDS) as ListShape[])('has the same names, acts and keys as %s', async (shape) => {
    done.length = 0;
    await renderPage(<List shape={shape} />);
    for (const { name } of entries) expect(screen.getAllByText(name).length).toBeGreaterThan(0);
    await userEvent.click(screen.getByText('map.png'));
    await userEvent.keyboard('p{Enter}');
    expect(done).toEqual(['p map.png', 'opened map.png']);
    if (shape === 'preview') expect(screen.getByText('all of map.png')).toBeTruthy();
  });
});

describe('its shape', () => {
  function Chosen() {
    const [shape, setShape] = useListShape('originals');
    return <ShapeChip shape={shape} words={FOLDER_SHAPE_WORDS} onShape={setShape} />;
  }
  it('is chosen from a menu and remembered, beside what was chosen for other lists', async () => {
    const page = await renderPage(<Chosen />, {
      'GET /settings': { ...SETTINGS, listShapes: { members: 'compact' } },
      'PATCH /settings': SETTINGS,
    });
    await userEvent.click(screen.getByRole('button', { name: 'Shown as: Table' }));
    await userEvent.click(await screen.findByRole('menuitem', { name: 'Large tiles' }));
    await waitFor(() =>
      expect(page.sent('PATCH').map((a) => a.body)).toEqual([
        { listShapes: { members: 'compact', originals: 'large-tiles' } },
      ]),
    );
  });
});
