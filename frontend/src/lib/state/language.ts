/** The language of a player's pages. A cookie tells it to this page and to the server; another language is another load of the page. */
import { locale, localeFor } from '../../locales/locale.js';

const NAME = 'orexis-language';

/** What is written in the page's language from now on: what the player chose, or (nothing) what the browser asks for. */
export function followLanguage(chosen: string | null | undefined): void {
  document.cookie = chosen
    ? `${NAME}=${chosen}; path=/; max-age=31536000; samesite=strict`
    : `${NAME}=; path=/; max-age=0; samesite=strict`;
  // The cookie is read back: where cookies are off nothing changed, and the page is not loaded again and again.
  if (localeFor(document.cookie) !== locale) location.reload();
}
