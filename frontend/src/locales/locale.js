/** The language of this page: what its player chose, or the first that the browser wants and that there is a catalogue for; English else. */
import { locales } from './data.js';

/** @param {string} cookie @returns {import('./data.js').Locale} */
export function localeFor(cookie) {
  const chosen = /(?:^|; )orexis-language=([a-z]+)/.exec(cookie)?.[1];
  const wanted = [chosen, ...(globalThis.navigator?.languages ?? [])].map((tag) => tag?.split('-')[0]);
  return wanted.map((tag) => locales.find((known) => known === tag)).find(Boolean) ?? locales[0];
}

export const locale = localeFor(globalThis.document?.cookie ?? '');

/** How dates and times are written in it. */
export const tag = locale === 'en' ? 'en-GB' : locale;

/** Languages that a player may choose, each in its own words. */
export const LANGUAGES = { en: 'English', de: 'Deutsch', fr: 'Français', es: 'Español' };
