/** A path field with a button that lets one browse for the path instead. */
import { lazy, Suspense, useState, type ComponentProps } from 'react';
import Button from '@mui/material/Button';
import type { Wanted } from './Chooser';
import { PathField } from './PathField';
import './PathChooser.css';

// seen only where somebody browses
const Chooser = lazy(() => import('./Chooser').then((m) => ({ default: m.Chooser })));

interface Props extends ComponentProps<typeof PathField> {
  want: Wanted;
  /** Of the dialog: what is chosen. */
  title: string;
}

export function PathChooser({ want, title, ...field }: Props) {
  const [browsing, setBrowsing] = useState(false);
  return (
    <div className="path-chooser">
      <PathField {...field} />
      <Button variant="outlined" onClick={() => setBrowsing(true)}>
        Browse…
      </Button>
      {browsing && (
        <Suspense fallback={null}>
          <Chooser
            title={title}
            want={want}
            start={field.value}
            onClose={() => setBrowsing(false)}
            onChoose={(chosen) => {
              field.onChange(chosen);
              setBrowsing(false);
            }}
          />
        </Suspense>
      )}
    </div>
  );
}
