/** Handing something to the player as a file. */
export function saveBlob(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

export function saveText(text: string, name: string, type = 'text/csv'): void {
  saveBlob(new Blob([text], { type }), name);
}
