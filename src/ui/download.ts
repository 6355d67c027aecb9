/** Hands a file to the browser's downloads. */
export function download(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** Hands a document to the browser's downloads, as JSON that people can read. */
export const downloadJson = (what: object, name: string): void =>
  download(new Blob([JSON.stringify(what, null, 2)], { type: 'application/json' }), name);
