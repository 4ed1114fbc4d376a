import { chromium } from '@playwright/test';
import fs from 'fs';
const args = ['--no-sandbox','--use-angle=swiftshader','--enable-unsafe-swiftshader','--ignore-gpu-blocklist','--disable-quic','--no-first-run','--disable-background-networking'];
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript(() => { window.links = 0; const p = WebGL2RenderingContext.prototype; const l = p.linkProgram; p.linkProgram = function (...a) { window.links++; return l.apply(this, a); }; });
const card = page.getByRole('region', { name: 'Card' });
const settled = async () => { await page.waitForFunction(() => /\d/.test(document.querySelector('[data-testid=stand]').dataset.frames)); let b=''; for (;;) { const f = await page.getAttribute('[data-testid=stand]', 'data-frames'); if (f && f === b) break; b = f; await page.waitForTimeout(250); } };
await page.goto('http://localhost:4900/');
await page.getByRole('button', { name: 'New job' }).click();
await page.waitForURL(/\/job\//);
await page.getByRole('button', { name: /Start shape/ }).click();
await card.getByLabel('Shape').selectOption({ label: 'Torus' });
console.log(await card.innerText());
for (const [l, v] of [['Sides', 100], ['Sides of the tube', 50]]) { const f = card.getByLabel(l, { exact: true }); if (await f.count()) { await f.fill(String(v)); await f.press('Tab'); } }
await card.getByRole('button', { name: 'Apply' }).click();
await settled();
await page.getByRole('button', { name: 'frame all' }).click();
await page.keyboard.press('KeyT'); // smooth on
await settled();
console.log('quads', await page.getByRole('region', { name: 'Readings' }).innerText().then(t=>t.slice(0,60)));
const cdp = await page.context().newCDPSession(page);
await cdp.send('Performance.enable');
const script = async () => Object.fromEntries((await cdp.send('Performance.getMetrics')).metrics.map(m=>[m.name,m.value]));
const wantProfile = process.argv[2];
async function step(name, act) {
  const a = await script(); const l0 = await page.evaluate(() => window.links); const t = performance.now();
  if (wantProfile === name) { await cdp.send('Profiler.enable'); await cdp.send('Profiler.setSamplingInterval',{interval:500}); await cdp.send('Profiler.start'); }
  await act(); await settled();
  if (wantProfile === name) { const { profile } = await cdp.send('Profiler.stop'); fs.mkdirSync('/tmp/prof2',{recursive:true}); fs.writeFileSync('/tmp/prof2/p.cpuprofile', JSON.stringify(profile)); }
  const b = await script(); const l1 = await page.evaluate(() => window.links);
  console.log(name.padEnd(24), 'script', ((b.ScriptDuration-a.ScriptDuration)*1000).toFixed(0), 'task', ((b.TaskDuration-a.TaskDuration)*1000).toFixed(0), 'wall', (performance.now()-t).toFixed(0), 'links', l1-l0);
}
const box = await page.locator('[data-testid=stand]').boundingBox();
const [x, y] = [box.x + box.width/2, box.y + box.height/2];
const key = (k) => () => page.keyboard.press(k);
await page.keyboard.press('KeyW');
let at; for (let dx = 0; dx < 300 && !at; dx += 7) { await page.mouse.move(x + 60 + dx, y + 40); await page.waitForTimeout(30); if ((await page.getByTestId('hint').innerText()).startsWith('edge')) at = [x+60+dx, y+40]; }
await step('click edge', () => page.mouse.click(...at));
await step('add-loop', key('KeyA'));
await page.waitForTimeout(1500);
await step('apply loop', key('Enter'));
await step('undo', key('Control+KeyZ'));
await step('redo', key('Control+Shift+KeyZ'));
await step('undo2', key('Control+KeyZ'));
await page.mouse.click(...at); await page.waitForTimeout(600);
await step('add-loop 2', key('KeyA'));await page.waitForTimeout(1500);
await step('discard', key('Escape'));
await page.keyboard.press('Escape'); await page.keyboard.press('KeyE');
await step('click face', () => page.mouse.click(...at));
await page.keyboard.press('Digit3');
await step('extrude', key('KeyF'));
await page.waitForTimeout(1500);
await step('apply extrude', key('Enter'));
await page.keyboard.press('Escape');
await step('undo3', key('Control+KeyZ'));
await page.keyboard.press('KeyQ');
await step('click vertex', () => page.mouse.click(...at));
await step('move start', () => page.keyboard.press('KeyZ'));
await step('typed move', async () => { const f = card.getByLabel('X', { exact: true }); await f.fill('1'); await f.press('Tab'); });
await step('20 moves', async () => { const f = card.getByLabel('X', { exact: true }); for (let i=0;i<20;i++){ await f.fill(String(1+i/10)); await f.dispatchEvent('change'); await page.evaluate(()=>new Promise(r=>requestAnimationFrame(()=>requestAnimationFrame(r)))); } });
await page.screenshot({ path: '/tmp/pw/perf.png' });
await browser.close();
