/** The rules of a sweep, and keeping it. */
import { useState } from 'react';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useNavigate } from 'react-router';
import { parseQuery } from '@rellin/core/query';
import type { RuleTarget, SweepRule } from '@rellin/contract';
import { useShortcuts } from '../api/queries';
import { FormDialog } from '../parts/FormDialog';
import type { RequestOf } from '../workspace/dialogRequest';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';
import { useSweepActs } from './useSweepActs';
import './sweeps.css';

const MB = 1_000_000;
const NUMERIC = { htmlInput: { inputMode: 'numeric' }, inputLabel: { shrink: true } } as const;

function troubleIn(rule: SweepRule): string {
  if (rule.to === 'folder' && rule.shortcutId === undefined) return 'Choose a folder.';
  if (rule.when === 'duplicate') return '';
  if (rule.query.trim() === '') return 'A condition is missing.';
  const parsed = parseQuery(rule.query);
  return parsed.ok ? '' : parsed.error.message;
}

function RulesDialog({ request, onClose }: { request: RequestOf<'sweep-rules'>; onClose(): void }) {
  const [rules, setRules] = useState(request.rules);
  const [isTold, setTold] = useState(false);
  const folders = (useShortcuts().data ?? []).filter((s) => s.kind === 'folder');
  const change = (at: number, more: Partial<SweepRule>) =>
    setRules((now) => now.map((rule, i) => (i === at ? { ...rule, ...more } : rule)));
  const move = (at: number, by: number) =>
    setRules((now) => {
      const next = [...now];
      const [one] = next.splice(at, 1);
      next.splice(at + by, 0, one!);
      return next;
    });
  return (
    <FormDialog
      wide
      title="Rules of this sweep"
      submit="Use these rules"
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        setTold(true);
        if (rules.some((rule) => troubleIn(rule) !== '')) return;
        onClose();
        // a rule without a name of its own is called by its condition
        request.onSave(rules.map((rule) => ({ ...rule, name: rule.name.trim() || rule.query })));
      }}
    >
      <p className="small">
        The first rule that a thing matches decides. What none matches goes where it belongs, where that is known well
        enough; the rest is left.
      </p>
      <ol className="sweep-rules">
        {rules.map((rule, i) => {
          const trouble = isTold ? troubleIn(rule) : '';
          return (
            <li key={i}>
              <span className="small">{i + 1}</span>
              {rule.when === 'duplicate' ? (
                <span className="sweep-rule-when">is the same as a file that is filed already</span>
              ) : (
                <TextField
                  size="small"
                  label="Condition"
                  placeholder="kind:pdf scan"
                  value={rule.query}
                  error={trouble !== ''}
                  helperText={trouble}
                  autoFocus={i === rules.length - 1}
                  onChange={(event) => change(i, { query: event.target.value, name: '' })}
                />
              )}
              <TextField
                select
                size="small"
                label="Goes"
                error={trouble !== '' && rule.to === 'folder' && rule.shortcutId === undefined}
                value={rule.to === 'folder' ? (rule.shortcutId ?? 'folder') : rule.to}
                onChange={(event) => {
                  const to = event.target.value;
                  const isWord = to === 'bin' || to === 'leave';
                  change(i, {
                    to: isWord ? (to as RuleTarget) : 'folder',
                    shortcutId: isWord || to === 'folder' ? undefined : to,
                  });
                }}
              >
                <MenuItem value="bin">into the bin</MenuItem>
                <MenuItem value="leave">nowhere: it is left</MenuItem>
                {rule.to === 'folder' && !folders.some((s) => s.id === rule.shortcutId) && (
                  <MenuItem value={rule.shortcutId ?? 'folder'}>
                    {rule.shortcutId ? 'a folder that is gone' : 'choose a folder shortcut'}
                  </MenuItem>
                )}
                {folders.map((s) => (
                  <MenuItem key={s.id} value={s.id}>
                    to “{s.name}”
                  </MenuItem>
                ))}
              </TextField>
              <span className="sweep-rule-acts">
                <Button size="small" disabled={i === 0} aria-label={`Rule ${i + 1} up`} onClick={() => move(i, -1)}>
                  ↑
                </Button>
                <Button
                  size="small"
                  disabled={i === rules.length - 1}
                  aria-label={`Rule ${i + 1} down`}
                  onClick={() => move(i, 1)}
                >
                  ↓
                </Button>
                <Button
                  size="small"
                  aria-label={`Remove rule ${i + 1}`}
                  onClick={() => setRules((now) => now.filter((_, k) => k !== i))}
                >
                  ×
                </Button>
              </span>
            </li>
          );
        })}
      </ol>
      <div className="sweep-add">
        <Button
          variant="outlined"
          onClick={() => setRules((now) => [...now, { name: '', when: 'query', query: '', to: 'folder' }])}
        >
          Add a rule
        </Button>
        {!rules.some((rule) => rule.when === 'duplicate') && (
          <Button
            variant="outlined"
            onClick={() =>
              setRules((now) => [{ name: 'Filed already', when: 'duplicate', query: '', to: 'bin' }, ...now])
            }
          >
            Add one for what is filed already
          </Button>
        )}
        <span className="small">
          Conditions are those of searches: <b className="mono">*.csv</b> · <b className="mono">kind:pdf</b> ·{' '}
          <b className="mono">size&gt;10MB</b> · <b className="mono">modified&lt;2026-06</b>
        </span>
      </div>
    </FormDialog>
  );
}

/** A whole number as it is typed; null where nothing is. */
const wholeOf = (text: string): number | null => (/^\d+$/.test(text.trim()) && Number(text) > 0 ? Number(text) : null);
const textOf = (value: number | null) => (value === null ? '' : String(value));

function SaveDialog({ request, onClose }: { request: RequestOf<'save-sweep'>; onClose(): void }) {
  const { draft, sweep } = request;
  const [name, setName] = useState(draft.name);
  const [things, setThings] = useState(textOf(draft.threshold.things));
  const [size, setSize] = useState(draft.threshold.size === null ? '' : String(draft.threshold.size / MB));
  const [days, setDays] = useState(textOf(draft.threshold.days));
  const [minutes, setMinutes] = useState(String(draft.recentMinutes));
  const [byItself, setByItself] = useState(draft.byItself);
  const acts = useSweepActs();
  const navigate = useNavigate();
  const megabytes = wholeOf(size);
  return (
    <FormDialog
      title={sweep ? `Change the sweep “${sweep.name}”` : 'Keep this sweep'}
      submit="Save"
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        void acts
          .save(
            {
              ...draft,
              name,
              threshold: {
                things: wholeOf(things),
                size: megabytes === null ? null : megabytes * MB,
                days: wholeOf(days),
              },
              recentMinutes: Math.max(0, Math.floor(Number(minutes) || 0)),
              byItself,
            },
            sweep,
          )
          .then((saved) => {
            if (!saved) return;
            onClose();
            if (!sweep) void navigate(`/sweeps/${saved.id}`);
          });
      }}
    >
      <TextField label="Name" value={name} autoFocus onChange={(event) => setName(event.target.value)} />
      <fieldset className="sweep-threshold">
        <legend className="small">The start view says so when there are</legend>
        <TextField
          size="small"
          label="things"
          placeholder="never"
          value={things}
          onChange={(event) => setThings(event.target.value)}
          slotProps={NUMERIC}
        />
        <span className="small">or</span>
        <TextField
          size="small"
          label="MB"
          placeholder="never"
          value={size}
          onChange={(event) => setSize(event.target.value)}
          slotProps={NUMERIC}
        />
        <span className="small">or the oldest lies there for</span>
        <TextField
          size="small"
          label="days"
          placeholder="never"
          value={days}
          onChange={(event) => setDays(event.target.value)}
          slotProps={NUMERIC}
        />
      </fieldset>
      <TextField
        size="small"
        label="What changed in the last minutes stays"
        value={minutes}
        onChange={(event) => setMinutes(event.target.value)}
        slotProps={NUMERIC}
      />
      <FormControlLabel
        control={<Checkbox size="small" checked={byItself} onChange={(event) => setByItself(event.target.checked)} />}
        label="Run by itself then, by its rules alone"
      />
      <p className="small">
        {byItself
          ? 'Rellin moves what the rules match as soon as enough has gathered, without asking. It says so here and on the start view, with an undo. What no rule matches is left for you.'
          : 'Nothing moves unless you sweep.'}
      </p>
    </FormDialog>
  );
}

export function SweepDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  if (dialog?.kind === 'sweep-rules') return <RulesDialog request={dialog} onClose={closeDialog} />;
  return dialog?.kind === 'save-sweep' ? <SaveDialog request={dialog} onClose={closeDialog} /> : null;
}
