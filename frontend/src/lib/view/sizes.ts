/** “1.2 GB”. */
export function sizeInWords(bytes: number): string {
  const units = ['B', 'kB', 'MB', 'GB', 'TB'];
  const at = bytes < 1 ? 0 : Math.min(units.length - 1, Math.floor(Math.log10(bytes) / 3));
  const value = bytes / 1000 ** at;
  return `${at === 0 || value >= 100 ? Math.round(value) : Math.round(value * 10) / 10} ${units[at]}`;
}
