import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** No serious findings of the axe package on what the page shows now. */
export async function expectAccessible(page: Page): Promise<void> {
  // What fades in or out has no contrast of its own.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const { violations } = await new AxeBuilder({ page }).analyze();
  const serious = violations.filter((violation) => violation.impact === 'serious' || violation.impact === 'critical');
  expect(serious.map((violation) => `${violation.id}: ${violation.nodes.map((node) => node.html).join(' ')}`)).toEqual(
    [],
  );
}
