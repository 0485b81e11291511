import { useState } from 'react';
import ExpandMore from '@mui/icons-material/ExpandMore';
import Checkbox from '@mui/material/Checkbox';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';

export interface ChipOption<T extends string> {
  value: T;
  label: string;
}

/** A chip that opens a menu of values: the chosen one marked, or with `several` each ticked by itself. */
export function ChipMenu<T extends string>(props: {
  label: string;
  /** For who does not see the chip, where its label does not say what it is for. */
  ariaLabel?: string;
  on?: boolean;
  several?: boolean;
  options: readonly ChipOption<T>[];
  chosen: readonly T[];
  onChoose(value: T): void;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <button
        type="button"
        className={`chip${props.on ? ' on' : ''}`}
        aria-haspopup="menu"
        aria-label={props.ariaLabel}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {props.label}
        <ExpandMore aria-hidden className="chevron" />
      </button>
      {anchor && (
        <Menu anchorEl={anchor} open onClose={() => setAnchor(null)} slotProps={{ list: { dense: true } }}>
          {props.options.map((o) => {
            const chosen = props.chosen.includes(o.value);
            return (
              <MenuItem
                key={o.value}
                selected={!props.several && chosen}
                {...(props.several && { role: 'menuitemcheckbox', 'aria-checked': chosen })}
                onClick={() => {
                  if (!props.several) setAnchor(null);
                  props.onChoose(o.value);
                }}
              >
                {props.several && <Checkbox checked={chosen} size="small" tabIndex={-1} sx={{ p: 0, mr: 1 }} />}
                {o.label}
              </MenuItem>
            );
          })}
        </Menu>
      )}
    </>
  );
}
