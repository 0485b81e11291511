/**
 * The fonts of the first words come beside the script: with another font first, every name would move when they are
 * there.
 */
import type { HtmlTagDescriptor, Plugin } from 'vite';

export function fontsFirst(): Plugin {
  return {
    name: 'rellin-fonts-first',
    apply: 'build',
    transformIndexHtml: {
      order: 'post',
      handler: (_html, { bundle }) =>
        Object.keys(bundle ?? {})
          .filter((name) => /-latin-wght-normal-.*\.woff2$/.test(name))
          .map((name): HtmlTagDescriptor => {
            const attrs = { rel: 'preload', as: 'font', type: 'font/woff2', href: `/${name}`, crossorigin: true };
            return { tag: 'link', attrs, injectTo: 'head' };
          }),
    },
  };
}
