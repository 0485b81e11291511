/** What a viewer of text is given. */
export interface TextProps {
  text: string;
  name: string;
}
