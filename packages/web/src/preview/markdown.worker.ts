import { markdownTree } from './markdownTree';

/** Asked once: a text in, its tree out, or nothing where it is beyond what can be shown. */
self.onmessage = ({ data }: MessageEvent<string>) => {
  try {
    self.postMessage(markdownTree(data));
  } catch {
    self.postMessage(null);
  }
};
