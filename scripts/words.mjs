// npm run words [PART]: prints every string that a user may read, by file and line, so that they can be read in one go.
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { parse } from 'svelte/compiler';
import ts from 'typescript';
import { root } from './setup.mjs';

const [part = ''] = process.argv.slice(2);
const files = ['core/src', 'core/cli', 'app/src']
  .flatMap((folder) => readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' }).map((name) => join(root, folder, name)))
  .filter((file) => /\.(ts|svelte)$/.test(file) && !/\.test\.ts$|\.worker\.ts$/.test(file) && relative(root, file).includes(part))
  .sort();

/** Whether a string is meant for people: a sentence, or a word with a capital; not a name of something in the program. */
const isRead = (text) =>
  /[a-z]{2}/.test(text) &&
  (/\S\s+\S/.test(text) || /^[A-Z][a-z]+$/.test(text)) &&
  !/^[\w$./-]+$|[{};]|^\s*#|=>|--\w+\s*:|^M\d/.test(text.replace(/^[A-Z][a-z]+$/, 'A a'));

/** Attributes that are read or spoken. */
const READ = new Set([
  ...['title', 'aria-label', 'label', 'labelText', 'placeholder', 'text', 'legendText', 'helperText', 'iconDescription'],
  ...['modalHeading', 'primaryButtonText', 'secondaryButtonText', 'subtitle', 'what']
]);

/** Strings of a piece of TypeScript. @param from position in the file it begins at */
function ofCode(code, from, add) {
  const source = ts.createSourceFile('x.ts', code, ts.ScriptTarget.Latest, true);
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) add(node.text, from + node.getStart());
    else if (ts.isTemplateExpression(node))
      add([node.head.text, ...node.templateSpans.map((s) => `…${s.literal.text}`)].join(''), from + node.getStart());
    ts.forEachChild(node, visit);
  };
  visit(source);
}

function ofSvelte(text, add) {
  const { html, instance, module } = parse(text, { modern: false });
  for (const script of [instance, module]) if (script) ofCode(text.slice(script.content.start, script.content.end), script.content.start, add);
  const visit = (node) => {
    if (node.type === 'Text' && node.data.trim()) add(node.data.trim().replace(/\s+/g, ' '), node.start, true);
    if (node.type === 'MustacheTag') ofCode(text.slice(node.start + 1, node.end - 1), node.start + 1, add);
    for (const attribute of node.attributes ?? [])
      if (READ.has(attribute.name) && Array.isArray(attribute.value))
        for (const value of attribute.value) {
          if (value.type === 'Text') add(value.data, value.start, true);
          else ofCode(text.slice(value.start + 1, value.end - 1), value.start + 1, add);
        }
    for (const child of [...(node.children ?? []), node.else, node.pending, node.then, node.catch].filter(Boolean)) visit(child);
  };
  visit(html);
}

let many = 0;
for (const file of files) {
  const text = readFileSync(file, 'utf8');
  const found = [];
  const add = (string, at, surely = false) => {
    if (surely ? /[a-zA-Z]{2}/.test(string) : isRead(string)) found.push([text.slice(0, at).split('\n').length, string]);
  };
  if (file.endsWith('.svelte')) ofSvelte(text, add);
  else ofCode(text, 0, add);
  if (found.length === 0) continue;
  console.log(`\n${relative(root, file)}`);
  for (const [line, string] of found.sort((a, b) => a[0] - b[0])) console.log(`${String(line).padStart(5)}  ${string}`);
  many += found.length;
}
console.log(`\n${many} strings`);
