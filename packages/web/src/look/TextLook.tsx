import type { TextProps } from './LookDialog';

export default function TextLook({ text }: TextProps) {
  return <pre className="look-text">{text === '' ? 'The file is empty.' : text}</pre>;
}
