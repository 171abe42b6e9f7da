import type { Page } from '@playwright/test';

/** Drops a file made of text on an element, as from a desktop. */
export async function dropFile(page: Page, selector: string, name: string, text: string, at: { x: number; y: number }): Promise<void> {
  const transfer = await page.evaluateHandle(
    ([fileName, contents]) => {
      const data = new DataTransfer();
      data.items.add(new File([contents], fileName));
      return data;
    },
    [name, text] as const,
  );
  const box = (await page.locator(selector).boundingBox())!;
  const place = { clientX: box.x + at.x, clientY: box.y + at.y };
  await page.dispatchEvent(selector, 'dragover', { dataTransfer: transfer, ...place });
  await page.dispatchEvent(selector, 'drop', { dataTransfer: transfer, ...place });
}
