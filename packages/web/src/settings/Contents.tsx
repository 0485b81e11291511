/** Which files are read for searches by content. */
import TextField from '@mui/material/TextField';
import type { SettingsView as Settings } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { Section } from './Section';

/** Kinds whose files may hold text. */
const CONTENT_KINDS = ['text', 'document', 'pdf', 'table', 'web', 'source', 'map'] as const;
const MEGABYTE = 1_000_000;

export function Contents({ settings, onChange }: { settings: Settings; onChange(change: Partial<Settings>): void }) {
  const { contentKinds, contentLimit } = settings;
  return (
    <Section id="contents">
      <p className="small">
        Searches find what files hold (<span className="mono">text:"hand net"</span>). What is read stays in Rellin’s
        own database on this machine.
      </p>
      <div className="line" role="group" aria-label="Kinds whose content is read">
        {CONTENT_KINDS.map((kind) => {
          const on = contentKinds.includes(kind);
          return (
            <button
              key={kind}
              type="button"
              className={`chip${on ? ' on' : ''}`}
              aria-pressed={on}
              onClick={() =>
                onChange({ contentKinds: on ? contentKinds.filter((k) => k !== kind) : [...contentKinds, kind] })
              }
            >
              {kindWord(kind)}
            </button>
          );
        })}
      </div>
      <div className="line">
        <TextField
          type="number"
          label="Up to (MB)"
          key={contentLimit}
          defaultValue={contentLimit / MEGABYTE}
          slotProps={{ htmlInput: { min: 0, max: 1000, step: 1 } }}
          onBlur={(event) => {
            const limit = Math.round(Number(event.target.value) * MEGABYTE);
            if (event.target.value !== '' && limit !== contentLimit) onChange({ contentLimit: limit });
          }}
        />
      </div>
    </Section>
  );
}
