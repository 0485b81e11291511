import Markdown from 'react-markdown';
import rehypeSanitize from 'rehype-sanitize';
import remarkGfm from 'remark-gfm';
import type { TextProps } from './textProps';

/** Markdown without scripts, and without pictures from elsewhere: nothing is fetched by looking. */
export default function MarkdownPreview({ text }: TextProps) {
  return (
    <div className="preview-markdown">
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
