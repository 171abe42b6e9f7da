import type { CanDeactivateFn } from '@angular/router';
import type { RopewalkPage } from './ropewalk.page';

/** Saves on the way out; edits that cannot be saved now stay in the browser and are taken up at the next visit. */
export const unsavedGuard: CanDeactivateFn<RopewalkPage> = async (page) => {
  await page.leave();
  return true;
};
