import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page } from '@playwright/test';

/** The editing screen, as a person sees it. */
export class Ropewalk {
  readonly graph: Locator;
  readonly faces: Locator;
  readonly points: Locator;
  readonly saved: Locator;

  constructor(readonly page: Page) {
    this.graph = page.locator('fx-graph .area');
    this.faces = page.locator('[data-fact=faces]');
    this.points = page.locator('[data-fact=points]');
    this.saved = page.getByTestId('save-state');
  }

  /** Opens a document from the Library by its card. */
  static async open(page: Page, title: string): Promise<Ropewalk> {
    await page.goto('/');
    await page
      .getByRole('link', { name: `Open ${title}`, exact: true })
      .first()
      .click();
    const ropewalk = new Ropewalk(page);
    await expect(page.getByLabel('Title', { exact: true })).toHaveValue(title);
    return ropewalk;
  }

  /** A new, empty document. */
  static async empty(page: Page): Promise<Ropewalk> {
    await page.goto('/');
    await page.getByRole('button', { name: 'New document' }).click();
    const ropewalk = new Ropewalk(page);
    await expect(page.getByText('Begin with a curve')).toBeVisible();
    return ropewalk;
  }

  tag(id: string): Locator {
    return this.page.locator(`fx-tag[data-node="${id}"]`);
  }

  setting(name: string): Locator {
    return this.page.locator(`fx-setting[data-setting="${name}"]`);
  }

  /** Adds a node by keyboard: N, a word, Enter. The node is wired to the chosen one when it fits. */
  async add(word: string): Promise<void> {
    await this.page.keyboard.press('n');
    await this.page.getByLabel('Search nodes', { exact: true }).fill(word);
    await this.page.keyboard.press('Enter');
    await expect(this.page.locator('fx-add-menu')).toHaveCount(0);
    // The new node gets the keyboard a moment later.
    await this.page.locator('fx-tag.chosen:focus').waitFor();
  }

  async setNumber(setting: string, text: string): Promise<void> {
    const box = this.setting(setting).locator('fx-number input').first();
    await box.focus();
    await box.fill(text);
    await box.press('Enter');
  }

  /** Chooses from the menu of a setting's small button. */
  async mode(setting: string, item: string | RegExp): Promise<void> {
    await this.page.getByRole('tab', { name: 'Settings' }).click();
    await this.setting(setting).locator('.mode').click();
    await this.page.getByRole('menuitem', { name: item }).click();
    await this.page.locator('.mat-mdc-menu-panel').waitFor({ state: 'detached' });
  }

  async isSaved(): Promise<void> {
    await expect(this.saved).toContainText('saved · version');
  }

  async faceCount(): Promise<number> {
    return Number((await this.faces.textContent())?.replace(/\D/g, ''));
  }

  /** Exports by the dialog and returns the bytes of the downloaded file. */
  async export(format: RegExp): Promise<Uint8Array> {
    await this.page.getByRole('button', { name: 'Export', exact: true }).click();
    await this.page.getByRole('radio', { name: format }).check();
    const [file] = await Promise.all([this.page.waitForEvent('download'), this.page.getByRole('button', { name: /^Download/ }).click()]);
    await expect(this.page.getByText('Written:')).toBeVisible();
    await this.page.getByRole('button', { name: 'Close' }).click();
    return new Uint8Array(readFileSync(await file.path()));
  }
}
