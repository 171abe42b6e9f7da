import type { Page } from '@playwright/test';

/** Drops files made of text on an element, as from a desktop. */
export async function dropFiles(
  page: Page,
  selector: string,
  files: readonly (readonly [name: string, text: string])[],
  at: { x: number; y: number },
): Promise<void> {
  const transfer = await page.evaluateHandle((given) => {
    const data = new DataTransfer();
    for (const [name, contents] of given) data.items.add(new File([contents], name));
    return data;
  }, files);
  const box = (await page.locator(selector).boundingBox())!;
  const place = { clientX: box.x + at.x, clientY: box.y + at.y };
  await page.dispatchEvent(selector, 'dragover', { dataTransfer: transfer, ...place });
  await page.dispatchEvent(selector, 'drop', { dataTransfer: transfer, ...place });
}

/** Drops one file. */
export const dropFile = (page: Page, selector: string, name: string, text: string, at: { x: number; y: number }): Promise<void> =>
  dropFiles(page, selector, [[name, text]], at);
