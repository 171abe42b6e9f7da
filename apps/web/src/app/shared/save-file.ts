/** Hands a file to the browser to be kept. */
export function saveFile(name: string, content: BlobPart, type: string): void {
  const link = Object.assign(document.createElement('a'), { href: URL.createObjectURL(new Blob([content], { type })), download: name });
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
