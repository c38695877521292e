/** The language of this page: the first that the browser wants and that there is a catalogue for; English else. */
import { locales } from './data.js';

const wanted = globalThis.navigator?.languages?.map((tag) => tag.split('-')[0]) ?? [];
/** @type {import('./data.js').Locale} */
export const locale = wanted.map((tag) => locales.find((known) => known === tag)).find(Boolean) ?? locales[0];

/** How dates and times are written in it. */
export const tag = locale === 'en' ? 'en-GB' : locale;
