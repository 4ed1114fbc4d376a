import { expect, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { readMesh, obj, quadSphere, writeMesh } from '@ulvrin/core';
import { saved } from './workshop.ts';

/** The same with many files, done by the server. */

const ball = (size: number, faces: number) => ({
  name: `ball-${size}.obj`,
  mimeType: 'text/plain',
  buffer: Buffer.from(writeMesh(quadSphere(size, faces), obj))
});

test('many files are done on the server, each is told of, and what was made comes in a zip', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Batch' }).click();
  const form = page.getByRole('form', { name: 'New batch' });
  const chooser = form.locator('input[type=file]');
  await chooser.setInputFiles([ball(10, 4), ball(12, 4), { ...ball(14, 4), name: 'ball-10.ply' }]);
  await expect(form.getByRole('alert')).toHaveText(/^Two files are called ball-10/);
  await form.getByRole('button', { name: 'Leave ball-10.ply out' }).click();
  await expect(form.getByRole('alert')).toHaveCount(0);
  await chooser.setInputFiles([ball(12, 4), { name: 'torn.obj', mimeType: 'text/plain', buffer: Buffer.from('v 1 2 x\nf 1 2 3\n') }]);
  await expect(form.getByRole('listitem')).toHaveCount(3);
  await form.getByLabel('Name').fill('Two balls and a torn one');
  await form.getByLabel('Save as').selectOption({ label: 'PLY' });
  await form.getByLabel('Tell what arrives at').selectOption({ label: 'Model room' });
  await form.getByRole('button', { name: 'Start' }).click();
  const batch = page.getByRole('region', { name: 'Two balls and a torn one' });
  await expect(batch).toContainText('2 of 3 done, 1 failed', { timeout: 60_000 });
  await expect(batch.getByRole('listitem').first()).toContainText('96 faces, nothing that shows, the same there');
  await expect(batch.getByRole('listitem').last()).toContainText('line 1');
  // it is there when the page is opened again
  await page.reload();
  const { name, bytes } = await saved(page, () => batch.getByRole('button', { name: 'Save what was made' }).click());
  expect(name).toBe('two-balls-and-a-torn-one.zip');
  const made = unzipSync(bytes);
  expect(Object.keys(made).sort()).toEqual(['ball-10.obj.json', 'ball-10.ply', 'ball-12.obj.json', 'ball-12.ply']);
  expect(readMesh(made['ball-12.ply'], 'ball-12.ply').mesh.faceStart).toHaveLength(97);
  await batch.getByRole('button', { name: 'Remove' }).click();
  await expect(batch).toHaveCount(0);
});
