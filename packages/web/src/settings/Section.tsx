import { useEffect, useRef, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { SECTIONS, type SectionId } from './sections';

/** One section of Settings; its address leads to it. */
export function Section({ id, children }: { id: SectionId; children: ReactNode }) {
  const head = useRef<HTMLHeadingElement>(null);
  const { hash, key } = useLocation();
  useEffect(() => {
    if (hash !== `#${id}`) return;
    head.current?.scrollIntoView({ block: 'start' });
    head.current?.focus({ preventScroll: true });
    // by the same link a second time as well
  }, [hash, key, id]);
  return (
    <section aria-labelledby={`section-${id}`}>
      <h2 id={`section-${id}`} ref={head} tabIndex={-1}>
        {SECTIONS.find((s) => s.id === id)!.title}
      </h2>
      {children}
    </section>
  );
}
