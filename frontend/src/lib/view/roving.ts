/** Many buttons in a row as one tab stop: arrows, Home and End go along them. An attachment for their box. */
export function roving(box: HTMLElement): () => void {
  const items = () => [...box.querySelectorAll<HTMLElement>('button')];
  const settle = (chosen?: HTMLElement) => {
    const all = items();
    const stop = chosen ?? all.find((item) => item.tabIndex === 0) ?? all[Math.floor(all.length / 2)];
    for (const item of all) item.tabIndex = item === stop ? 0 : -1;
  };
  const pressed = (event: KeyboardEvent) => {
    const all = items();
    const at = all.indexOf(document.activeElement as HTMLElement);
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: all.length - 1 }[event.key];
    const next = to === undefined || at < 0 ? undefined : all[to];
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  const focused = (event: FocusEvent) => settle(event.target as HTMLElement);
  const watcher = new MutationObserver(() => settle());
  watcher.observe(box, { childList: true });
  box.addEventListener('keydown', pressed);
  box.addEventListener('focusin', focused);
  for (const item of items()) item.tabIndex = -1;
  const all = items();
  settle(all.find((item) => item.getAttribute('aria-pressed') === 'true') ?? all[Math.floor(all.length / 2)]);
  return () => {
    watcher.disconnect();
    box.removeEventListener('keydown', pressed);
    box.removeEventListener('focusin', focused);
  };
}
