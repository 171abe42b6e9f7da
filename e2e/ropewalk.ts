import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
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
    // Of many documents only those in sight are on the page.
    await page.getByLabel('Search documents').fill(title);
    await page
      .getByRole('link', { name: `Open ${title}`, exact: true })
      .first()
      .click();
    const ropewalk = new Ropewalk(page);
    await expect(page.getByLabel('Title', { exact: true })).toHaveValue(title);
    return ropewalk;
  }

  /** A new, empty document, made from the Library. */
  static async begin(page: Page): Promise<Ropewalk> {
    await page.goto('/');
    await page.getByRole('button', { name: 'New document' }).click();
    const ropewalk = new Ropewalk(page);
    await expect(page.getByText('Begin with a curve')).toBeVisible();
    return ropewalk;
  }

  /** A new, empty document. */
  static async empty(page: Page): Promise<Ropewalk> {
    const ropewalk = await Ropewalk.stored(page, { format: 'filaxis-graph', version: 1, title: 'Untitled', nodes: [], wires: [] });
    await expect(page.getByText('Begin with a curve')).toBeVisible();
    return ropewalk;
  }

  /** A copy of a demo document, so that what one test changes no other finds. */
  static async copy(page: Page, title: string): Promise<Ropewalk> {
    const file = resolve(import.meta.dirname, '../demo/documents', `${title.toLowerCase().replace(/ /g, '-')}.json`);
    const ropewalk = await Ropewalk.stored(page, { ...JSON.parse(readFileSync(file, 'utf8')), title: `Copy of ${title}` });
    await expect(page.getByLabel('Title', { exact: true })).toHaveValue(`Copy of ${title}`);
    return ropewalk;
  }

  static async stored(page: Page, document: unknown): Promise<Ropewalk> {
    const answer = await page.request.post('/api/documents', { data: { document } });
    expect(answer.status()).toBe(201);
    await page.goto(`/d/${(await answer.json()).id}`);
    return new Ropewalk(page);
  }

  tag(id: string): Locator {
    return this.page.locator(`fx-tag[data-node="${id}"]`);
  }

  setting(name: string): Locator {
    return this.page.locator(`fx-setting[data-setting="${name}"]`);
  }

  /** Adds a node by keyboard: N, a word, Enter. The node is wired to the chosen one when it fits. */
  async add(word: string): Promise<void> {
    // Letters are for the graph while the keyboard is there.
    await this.graph.focus();
    await this.page.keyboard.press('n');
    await this.page.getByLabel('Search nodes', { exact: true }).fill(word);
    await this.page.keyboard.press('Enter');
    await expect(this.page.locator('fx-add-menu')).toHaveCount(0);
    // The new node gets the keyboard a moment later.
    await this.page.locator('fx-tag.chosen:focus').waitFor();
  }

  /** Which results the 3D view shows. */
  async show(which: 'Chosen' | 'Outputs' | 'All'): Promise<void> {
    await this.page.locator('fx-view-shows').getByText(which, { exact: true }).click();
  }

  async setNumber(setting: string, text: string): Promise<void> {
    const box = this.setting(setting).locator('fx-number input').first();
    await box.focus();
    await box.fill(text);
    await box.press('Enter');
  }

  async setVector(setting: string, numbers: readonly number[]): Promise<void> {
    for (const [i, number] of numbers.entries()) {
      const box = this.setting(setting).locator('.vector fx-number input').nth(i);
      await box.focus();
      await box.fill(String(number));
      await box.press('Enter');
    }
  }

  /** Draws a wire out of a node and lets it go on another, which takes it at the first free input that fits. */
  async wire(from: string, to: string): Promise<void> {
    const port = (await this.tag(from).locator('.out').first().boundingBox())!;
    const target = (await this.tag(to).boundingBox())!;
    await this.page.mouse.move(port.x + port.width / 2, port.y + port.height / 2);
    await this.page.mouse.down();
    await this.page.mouse.move(target.x + target.width / 2, target.y + target.height / 2, { steps: 6 });
    await this.page.mouse.up();
  }

  /** Wires something into an input of the chosen node by its list of inputs, for nodes that are out of view in the graph. */
  async wireFrom(input: string, source: RegExp): Promise<void> {
    await this.page.getByRole('tab', { name: 'Settings' }).click();
    await this.page.getByRole('button', { name: `Wire something into ${input}` }).click();
    await this.page.getByRole('menuitem', { name: source }).click();
    await this.page.locator('.mat-mdc-menu-panel').waitFor({ state: 'detached' });
  }

  /** Chooses from the menu of a setting's small button. */
  async mode(setting: string, item: string | RegExp): Promise<void> {
    await this.page.getByRole('tab', { name: 'Settings' }).click();
    await this.setting(setting).locator('.mode').click();
    await this.page.getByRole('menuitem', { name: item }).click();
    await this.page.locator('.mat-mdc-menu-panel').waitFor({ state: 'detached' });
  }

  /** What a place says once it says the same for a while: no run is on its way any more. */
  async settled(place: Locator): Promise<string> {
    let [text, since] = ['', 0];
    await expect
      .poll(
        async () => {
          const now = (await place.textContent()) ?? '';
          since = now === text ? since + 1 : 0;
          text = now;
          return since;
        },
        { intervals: [250] },
      )
      .toBeGreaterThan(3);
    return text;
  }

  async isSaved(): Promise<void> {
    await expect(this.saved).toContainText('saved · version');
  }

  async faceCount(): Promise<number> {
    return Number((await this.faces.textContent())?.replace(/\D/g, ''));
  }

  /** Chooses from a list by what is written there. */
  async choose(list: Locator, text: string | RegExp): Promise<void> {
    await list.click();
    await this.page.getByRole('option', { name: text }).first().click();
    await expect(this.page.getByRole('listbox')).toHaveCount(0);
  }

  /** Has surfaces looked at in another way. */
  async look(name: string): Promise<void> {
    await this.choose(this.page.getByRole('combobox', { name: 'How surfaces look' }), new RegExp(`^${name}$`));
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
