import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['node_modules', 'dist', 'src/lib/api/schema.d.ts', 'src/locales/.wuchale', 'src/locales/data.js'] },
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.browser } } },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'] } },
    rules: { 'svelte/no-at-html-tags': 'off', 'svelte/no-navigation-without-resolve': 'off' },
  },
);
