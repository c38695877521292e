import { readFileSync } from 'node:fs';
import { adapter as svelte, svelteDefaultHeuristic } from '@wuchale/svelte';
import { defineConfig } from 'wuchale';
import { varNames } from 'wuchale/adapter-utils';
import { Transformer } from 'wuchale/adapter-vanilla';

/** Attributes and properties that a player reads or hears. */
const SPOKEN = ['aria-label', 'aria-valuetext', 'alt', 'label', 'legend', 'placeholder', 'text', 'title', 'yes'];
/** Two words, or a value (# or {name}) and a word: a sentence or a label. */
const SAID = /\p{L}[\p{L}’]+[,;:]? \p{L}|\{[^}]+\} \p{L}{2}|#,? ?\p{L}{2}|\p{L}{2},? #|^\d+ \p{L}{3}/u;
/** Names of the interface are no words, though some look like them. */
const NAMES = new Set(
  JSON.stringify(JSON.parse(readFileSync('../docs/api/openapi.json', 'utf8')).components)
    .match(/"enum":\[[^\]]*\]/g)
    .flatMap((list) => JSON.parse(list.slice(7))),
);

/** Selectors, keys of the keyboard, names of errors and of type. */
const CODE =
  /[[\]]|^#\p{L}|Error$|^Arrow|^'|^\(prefers|^WAVE|^(exercise|recording|routine|goal|valve) #$|px\b|^translate|^(input|button), |^([A-G]b|Escape|Enter|Home)$/u;

function isWord(message) {
  const { scope, attribute, call } = message.details;
  const words = message.msgStr.join(' ');
  if (!/\p{L}/u.test(words)) return false;
  if (scope === 'attribute') return SPOKEN.includes(attribute) ? 'message' : false;
  if (scope === 'markup') return svelteDefaultHeuristic(message);
  if (NAMES.has(words) || CODE.test(words) || call?.startsWith('console.')) return false;
  if (SAID.test(words)) return 'message';
  return svelteDefaultHeuristic(message);
}

/** `counted(n, ['# take', '# takes'])`: a form for each plural of the language. */
const COUNTED = { name: 'counted', args: ['other', 'message', 'pluralFunc'] };
// Words come with the code that says them; another language is another load of the page.
const pages = svelte({
  bundleLoad: true,
  granularLoad: true,
  loader: 'custom',
  patterns: [COUNTED],
  heuristic: isWord,
  files: { include: ['src/**/*.svelte', 'src/**/*.ts'], ignore: ['**/*.d.ts', '**/*.test.ts'] },
});

/** Modules have words outside functions too (lists of labels), so that what reads them stands before everything. */
const as = { wrapInit: (code) => code, wrapUse: (code) => code };
const runtime = { initReactive: () => null, useReactive: false, plain: as, reactive: as };
function inModule({ content, filename, index, expr, matchUrl }) {
  const made = new Transformer(content, filename, index, isWord, [COUNTED], expr, runtime, matchUrl).transform();
  return { ...made, output: (header) => made.output(`${header}\nconst ${varNames.rt} = ${expr.plain};\n`) };
}
const isModule = (filename) => filename.endsWith('.ts') && !filename.endsWith('.svelte.ts');

export default defineConfig({
  locales: ['en', 'de', 'fr', 'es'],
  localesDir: 'src/locales',
  adapters: {
    pages: { ...pages, transform: (file) => (isModule(file.filename) ? inModule(file) : pages.transform(file)) },
  },
});
