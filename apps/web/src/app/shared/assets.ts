/** SHA-256 of bytes, 64 hexadecimal digits. */
export async function sha256(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return Array.from(digest, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Hands a file to the browser as a download. */
export function download(content: Uint8Array | Blob, name: string, type = 'application/octet-stream'): void {
  const url = URL.createObjectURL(new Blob([content as Uint8Array<ArrayBuffer> | Blob], { type }));
  const link = Object.assign(document.createElement('a'), { href: url, download: name });
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A title as a file name. */
export const fileName = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'filaxis';
