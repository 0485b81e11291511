/**
 * Markdown, laid out. It is read in a worker that is given up after a moment: a short text can be written so that
 * reading it takes hours. What cannot be laid out is shown as the text it is.
 */
import { useEffect } from 'react';
import { Fragment, jsx, jsxs } from 'react/jsx-runtime';
import type { Root } from 'hast';
import { toJsxRuntime } from 'hast-util-to-jsx-runtime';
import { useStateFor } from '../parts/useStateFor';
import TextPreview from './TextPreview';
import type { TextProps } from './textProps';

const READ_MS = 3000;

type Read = Root | 'reading' | 'given up';

export default function MarkdownPreview({ text, name }: TextProps) {
  const [read, setRead] = useStateFor<Read>(text, 'reading');
  useEffect(() => {
    const worker = new Worker(new URL('./markdown.worker.ts', import.meta.url), { type: 'module' });
    const stop = () => {
      clearTimeout(timer);
      worker.terminate();
    };
    const end = (how: Read) => {
      stop();
      setRead(how);
    };
    const timer = setTimeout(() => end('given up'), READ_MS);
    worker.onmessage = ({ data }: MessageEvent<Root | null>) => end(data ?? 'given up');
    worker.onerror = () => end('given up');
    worker.postMessage(text);
    return stop;
  }, [text, setRead]);
  if (read === 'reading') return null;
  if (read !== 'given up') return <MarkdownTree tree={read} />;
  return (
    <>
      <p className="preview-note">This text takes too long to lay out; it is shown as it is written.</p>
      <TextPreview text={text} name={name} />
    </>
  );
}

/** Without pictures from elsewhere and without links: nothing is fetched by looking. */
export const MarkdownTree = ({ tree }: { tree: Root }) => (
  <div className="preview-markdown">
    {toJsxRuntime(tree, {
      Fragment,
      jsx,
      jsxs,
      components: {
        img: ({ alt }: { alt?: string }) => <span>[picture: {alt}]</span>,
        a: ({ children }: { children?: React.ReactNode }) => <u>{children}</u>,
      },
    })}
  </div>
);
