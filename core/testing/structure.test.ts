import { readdirSync, readFileSync } from 'node:fs';
import { dirname, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { operations } from '../src/index.ts';

/** Stages of auto quads, in the order they import each other: none takes anything from a later one. */
const STAGES = ['base', 'lines', 'symmetry', 'input', 'field', 'map', 'quads', 'fit', 'search', '.', 'beside'];

const root = fileURLToPath(new URL('../..', import.meta.url));
const filesIn = (folder: string): string[] =>
  readdirSync(resolve(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.(ts|svelte)$/.test(name))
    .map((name) => resolve(root, folder, name));
const isTest = (file: string) => file.endsWith('.test.ts');

/** Files that a file imports, its own project's alone. */
function importsOf(file: string): string[] {
  const lib = (name: string) => (name.startsWith('$lib/') ? resolve(root, 'app/src/lib', name.slice(5)) : resolve(dirname(file), name));
  return ts
    .preProcessFile(readFileSync(file, 'utf8'), true, true)
    .importedFiles.filter(({ fileName }) => /^(\.|\$lib\/)/.test(fileName))
    .map(({ fileName }) => lib(fileName.replace(/\?.*$/, '')));
}

/** Files that import each other round, as sets (Tarjan 1972). */
function circlesIn(files: readonly string[]): string[][] {
  const graph = new Map(files.map((file) => [file, importsOf(file)]));
  const [index, low, open, found] = [new Map<string, number>(), new Map<string, number>(), [] as string[], [] as string[][]];
  const visit = (file: string): void => {
    index.set(file, index.size);
    low.set(file, index.get(file)!);
    open.push(file);
    for (const next of graph.get(file)!.filter((f) => graph.has(f)))
      if (!index.has(next)) {
        visit(next);
        low.set(file, Math.min(low.get(file)!, low.get(next)!));
      } else if (open.includes(next)) low.set(file, Math.min(low.get(file)!, index.get(next)!));
    if (low.get(file) !== index.get(file)) return;
    const circle = open.splice(open.indexOf(file));
    if (circle.length > 1) found.push(circle.map((f) => relative(root, f)));
  };
  for (const file of files) if (!index.has(file)) visit(file);
  return found;
}

describe('the house', () => {
  it('has no files that import each other in a circle', () => {
    const files = ['core/src', 'core/cli', 'app/src'].flatMap(filesIn).filter((file) => !isTest(file));
    expect(files.length).toBeGreaterThan(300);
    expect(circlesIn(files)).toEqual([]);
  });

  it('has no file over 400 lines', () => {
    const files = ['core/src', 'core/cli', 'core/testing', 'app/src', 'app/e2e'].flatMap(filesIn);
    const long = files
      .map((file) => [relative(root, file), readFileSync(file, 'utf8').split('\n').length - 1] as const)
      .filter(([, lines]) => lines > 400);
    expect(long).toEqual([]);
  });

  it('lets no stage of auto quads import a later one', () => {
    const folder = resolve(root, 'core/src/autoquad');
    const stageOf = (file: string) => STAGES.indexOf(relative(folder, dirname(file)) || '.');
    const files = filesIn('core/src/autoquad').filter((file) => !isTest(file));
    expect(files.filter((file) => stageOf(file) < 0)).toEqual([]);
    const later = files.flatMap((file) =>
      importsOf(file).flatMap((to) => (stageOf(to) > stageOf(file) ? [[file, to].map((f) => relative(folder, f))] : []))
    );
    expect(later).toEqual([]);
  });

  it('tests every operation beside its file', () => {
    const files = filesIn('core/src/operations');
    const texts = new Map(files.map((file) => [file, readFileSync(file, 'utf8')]));
    const untested = operations.filter(({ id }) => {
      const own = files.filter((file) => !isTest(file) && new RegExp(`id: .*'${id}'`).test(texts.get(file)!));
      const tests = files.filter((file) => isTest(file) && own.some((of) => dirname(of) === dirname(file)));
      return !tests.some((file) => texts.get(file)!.includes(`'${id}'`) || importsOf(file).some((of) => own.includes(of)));
    });
    expect(untested.map(({ id }) => id)).toEqual([]);
  });
});
