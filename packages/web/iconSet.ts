/**
 * The bundled icon set as files beside the page: `icons/NAME.svg` and `icons/names.json`. A picture chosen by search is
 * fetched alone, so that two thousand icons cost a page nothing.
 */
import { readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { renderToStaticMarkup } from 'react-dom/server';
import type { ReactElement, ReactNode } from 'react';
import type { Plugin } from 'vite';

const SUFFIX = 'Outlined.mjs';
/** Brands, makers' devices and programming marks: a person's picture of a thing needs none of them. */
const LEFT_OUT =
  /^(Adb|Airplay|Android|CatchingPokemon|Css|CurrencyBitcoin|Facebook|Fitbit|GTranslate|Html|Javascript|LogoDev|NestCam.*|Php|Pix|AddToDrive|ChromeReaderMode)$|Android|Chromebook|Ios|Iphone|Mac$|Windows$|errorred/;

const kebab = (name: string) =>
  name
    .replace(/([a-z0-9])([A-Z])/g, '$1-$2')
    .replace(/([A-Z])([A-Z][a-z])/g, '$1-$2')
    .toLowerCase();

type IconModule = { default: { type: { render(props: object, ref: null): ReactElement<{ children: ReactNode }> } } };

export function iconSet(): Plugin {
  return {
    name: 'rellin-icon-set',
    apply: 'build',
    async generateBundle() {
      const folder = dirname(createRequire(import.meta.url).resolve('@mui/icons-material/package.json'));
      const names: string[] = [];
      for (const file of readdirSync(folder)) {
        const icon = file.slice(0, -SUFFIX.length);
        if (!file.endsWith(SUFFIX) || LEFT_OUT.test(icon)) continue;
        const module = (await import(pathToFileURL(join(folder, file)).href)) as IconModule;
        const shapes = renderToStaticMarkup(module.default.type.render({}, null).props.children);
        const name = kebab(icon);
        names.push(name);
        this.emitFile({
          type: 'asset',
          fileName: `icons/${name}.svg`,
          source: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24">${shapes}</svg>`,
        });
      }
      this.emitFile({ type: 'asset', fileName: 'icons/names.json', source: JSON.stringify(names.sort()) });
    },
  };
}
