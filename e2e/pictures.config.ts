import config from './playwright.config';

export default { ...config, testMatch: 'pictures.ts', reporter: [['list']], use: { ...config.use, screenshot: 'off' } };
