import type { TextProps } from './textProps';

export default function TextLook({ text }: TextProps) {
  return <pre className="look-text">{text === '' ? 'The file is empty.' : text}</pre>;
}
