import type { TextProps } from './textProps';

export default function TextPreview({ text }: TextProps) {
  return <pre className="preview-text">{text === '' ? 'The file is empty.' : text}</pre>;
}
