/** A text as HTML shows it. */
export const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** One page of HTML that needs nothing else and prints well. @param body finished HTML */
export const printedPage = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escaped(title)}</title><style>
body { font: 14px/1.45 'IBM Plex Sans', 'Helvetica Neue', Arial, sans-serif; color: #161616; max-width: 190mm; margin: 12mm auto; padding: 0 4mm; }
h1 { font-size: 28px; font-weight: 400; margin: 0 0 4px; } h2 { font-size: 20px; font-weight: 600; margin: 24px 0 8px; border-bottom: 1px solid #161616; }
table { border-collapse: collapse; width: 100%; margin: 8px 0; } td, th { text-align: left; padding: 3px 8px 3px 0; border-bottom: 1px solid #e0e0e0; vertical-align: top; }
td.n { text-align: right; font-family: 'IBM Plex Mono', monospace; white-space: nowrap; } .quiet { color: #6f6f6f; } img { max-width: 100%; } figure { margin: 8px 0; }
.charts { display: flex; flex-wrap: wrap; gap: 8px; } code { font: 12px 'IBM Plex Mono', monospace; overflow-wrap: anywhere; }
@media print { body { margin: 0; max-width: none; } h2 { break-after: avoid; } tr, section { break-inside: avoid; } }
</style></head><body><h1>${escaped(title)}</h1>
${body}
</body></html>
`;
