/** Fails where a word on a page is not in the catalogue, or one in the catalogue is on no page any more: `npm run words` brings it up. */
import { spawnSync } from 'node:child_process';
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';

const FOLDER = 'src/locales';
const catalogues = readdirSync(FOLDER).filter((name) => name.endsWith('.po'));
const before = catalogues.map((name) => readFileSync(`${FOLDER}/${name}`, 'utf8'));
const run = spawnSync('npx', ['wuchale', '--clean', '--log-level', 'error'], { encoding: 'utf8' });
if (run.status !== 0) throw new Error(run.stderr);
const stale = catalogues.filter((name, at) => readFileSync(`${FOLDER}/${name}`, 'utf8') !== before[at]);
for (const name of stale) writeFileSync(`${FOLDER}/${name}`, before[catalogues.indexOf(name)]);
if (stale.length) {
  console.error(`${stale.join(', ')}: not what the pages say. Run: npm run words`);
  process.exit(1);
}
