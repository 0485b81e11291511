import Markdown from 'react-markdown';
import rehypeSanitize from 'rehype-sanitize';
import remarkGfm from 'remark-gfm';
import type { TextProps } from './textProps';

/** Markdown without scripts, and without pictures from elsewhere: nothing is fetched by looking. */
export default function MarkdownLook({ text }: TextProps) {
  return (
    <div className="look-markdown">
      <Markdown
        remarkPlugins={[remarkGfm]}
        rehypePlugins={[rehypeSanitize]}
        components={{ img: ({ alt }) => <span>[picture: {alt}]</span>, a: ({ children }) => <u>{children}</u> }}
      >
        {text}
      </Markdown>
    </div>
  );
}
