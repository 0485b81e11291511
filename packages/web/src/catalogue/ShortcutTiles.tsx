/** Shortcuts as tiles in three sizes, or as compact lines in as many columns as fit. */
import type { SettingsView, ShortcutView } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { DragHandle } from '../parts/DragRow';
import type { GridProps } from '../parts/Grid';
import { KeyCap } from '../parts/KeyCap';
import { ChosenPicture, Picture } from '../parts/Picture';
import { ReachRuler } from '../parts/ReachRuler';
import { STATE_WORDS, Tether } from '../parts/Tether';
import { Tiles } from '../parts/Tiles';
import './tiles.css';

type TileShape = Exclude<SettingsView['catalogueShape'], 'table'>;

const SIZES: Record<TileShape, { width: number; height: number }> = {
  'small-tiles': { width: 168, height: 56 },
  'medium-tiles': { width: 140, height: 132 },
  'large-tiles': { width: 216, height: 226 },
  compact: { width: 190, height: 30 },
};

function Tile({ shortcut: s, shape }: { shortcut: ShortcutView; shape: TileShape }) {
  const name = (
    <span className="tile-name" title={s.name}>
      {s.name}
    </span>
  );
  const pin = s.pinSlot !== null && <KeyCap>{s.pinSlot}</KeyCap>;
  const tether = <Tether state={s.state} />;
  return (
    <DragHandle id={`tile-${s.id}`} item={{ type: 'shortcut', shortcut: s }}>
      <span className={`tile-inside ${shape}`}>
        {shape === 'compact' ? (
          <>
            {tether}
            <ChosenPicture of={s} />
            {name}
            {pin}
          </>
        ) : shape === 'small-tiles' ? (
          <>
            <Picture of={s} size={32} />
            {name}
            {pin}
          </>
        ) : (
          <>
            <Picture of={s} size={shape === 'large-tiles' ? 104 : 56} />
            {name}
            <span className="tile-facts small">
              {tether}
              {s.state === 'ready' ? kindWord(s.kind) : STATE_WORDS[s.state]}
              {pin}
            </span>
            {shape === 'large-tiles' && <ReachRuler reach={s.reach} width={184} />}
          </>
        )}
      </span>
    </DragHandle>
  );
}

type Passed = Omit<GridProps<ShortcutView>, 'columns' | 'rowHeight' | 'sort' | 'onSort' | 'takeFocus' | 'onChord'>;

export function ShortcutTiles({ shape, ...list }: Passed & { shape: TileShape }) {
  return (
    <Tiles
      {...list}
      tile={SIZES[shape]}
      gap={shape === 'compact' ? 4 : 10}
      nameOf={(s) => `${s.name}, ${kindWord(s.kind)}, ${STATE_WORDS[s.state]}`}
      content={(s) => <Tile shortcut={s} shape={shape} />}
    />
  );
}
