import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css';
import './theme/base.css';
import { App } from './App';

/** What is drawn before its font is there moves when it comes; a font that does not come is not waited for. */
const FONTS_MS = 2000;
const fonts = ['1em "Atkinson Hyperlegible Next Variable"', '1em "Atkinson Hyperlegible Mono Variable"'];
await Promise.race([
  Promise.all(fonts.map((font) => document.fonts.load(font))).catch(() => undefined),
  new Promise((resolve) => setTimeout(resolve, FONTS_MS)),
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
