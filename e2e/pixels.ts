import type { Locator } from '@playwright/test';

/** A picture of an element as its pixels: 4 numbers each, row by row. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Buffer;
}

/** Takes a picture of an element; the page itself decodes it. */
export async function pixelsOf(element: Locator): Promise<Pixels> {
  const png = (await element.screenshot()).toString('base64');
  const { width, height, data } = await element.page().evaluate(async (text) => {
    const bitmap = await createImageBitmap(new Blob([Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0))]));
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    const brush = canvas.getContext('2d')!;
    brush.drawImage(bitmap, 0, 0);
    const bytes = brush.getImageData(0, 0, bitmap.width, bitmap.height).data;
    let signs = '';
    for (let i = 0; i < bytes.length; i += 8192) signs += String.fromCharCode(...bytes.subarray(i, i + 8192));
    return { width: bitmap.width, height: bitmap.height, data: btoa(signs) };
  }, png);
  return { width, height, data: Buffer.from(data, 'base64') };
}

/** The middle of the pixels that are wanted, and how many they are. `but`: pixels that look the same there are left out; `top`: so are rows above. */
export function middleOf(
  { width, height, data }: Pixels,
  wanted: (r: number, g: number, b: number) => boolean,
  but?: Pixels,
  top = 0,
): { x: number; y: number; count: number } {
  const sum = { x: 0, y: 0, count: 0 };
  for (let i = top * width; i < width * height; i++) {
    const [r, g, b] = data.subarray(i * 4, i * 4 + 3);
    if (!wanted(r, g, b) || but?.data.subarray(i * 4, i * 4 + 3).equals(data.subarray(i * 4, i * 4 + 3))) continue;
    sum.x += i % width;
    sum.y += Math.floor(i / width);
    sum.count++;
  }
  return { x: sum.x / sum.count, y: sum.y / sum.count, count: sum.count };
}
