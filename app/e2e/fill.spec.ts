import { expect, test } from '@playwright/test';
import { apply, card, openDemo, reading, readings, selection } from './workshop.ts';

test('the holes of the channel buoy, even, odd and nested, are refused together with the reason, then filled without an n-gon more', async ({
  page
}) => {
  await openDemo(page, 'Channel buoy');
  await page.keyboard.press('Digit5');
  await page.keyboard.press('KeyZ');
  await expect(page.getByText(/Quad grid: No border is picked; there are 7: .*even.*odd/)).toBeVisible();
  await expect(reading(page, 'N-gons')).toHaveText('3');
  await readings(page).getByRole('row').filter({ hasText: 'Borders' }).getByRole('button').click();
  await expect(selection(page)).toContainText('44 edges');
  await page.getByTestId('stand').hover({ position: { x: 20, y: 300 } });
  await page.keyboard.press('KeyZ');
  await expect(card(page).getByRole('heading', { name: 'Quad grid' })).toBeVisible();
  await card(page).getByLabel('Swell', { exact: true }).fill('0.8');
  await card(page).getByLabel('Swell', { exact: true }).press('Tab');
  await apply(page);
  await expect(page.getByRole('navigation', { name: 'Benches' })).toContainText('closed');
  await expect(card(page)).toContainText('an island of 4 edges in it: a ring of');
  await expect(reading(page, 'N-gons')).toHaveText('3');
});
