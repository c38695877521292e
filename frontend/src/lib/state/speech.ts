import { tag } from '../../locales/locale.js';

/** Nothing is said while somebody is counted in. */
export function hushSpeech(): void {
  if ('speechSynthesis' in window) speechSynthesis.cancel();
}

/** Says a verdict aloud, in words that a voice reads well; a new one cuts the old one short. */
export function speak(text: string): void {
  if (!('speechSynthesis' in window)) return;
  speechSynthesis.cancel();
  const said = text
    .replace(/♭/g, ' flat')
    .replace(/♯/g, ' sharp')
    .replace(/\(.*?\)/g, '');
  const words = new SpeechSynthesisUtterance(said);
  words.lang = tag;
  speechSynthesis.speak(words);
}
