/** What benchmarks of a page ask of it: until nothing more is drawn, and ms of scripting so far. */
export async function pageTools(page) {
  const stand = page.getByTestId('stand');
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  return {
    stand,
    card: page.getByRole('region', { name: 'Card' }),
    async rest() {
      for (let last = ''; ; await page.waitForTimeout(250)) {
        const frames = (await stand.getAttribute('data-frames')) ?? '';
        if (frames !== '' && frames === last) return;
        last = frames;
      }
    },
    scripting: async () => (await cdp.send('Performance.getMetrics')).metrics.find((m) => m.name === 'ScriptDuration').value * 1000
  };
}
