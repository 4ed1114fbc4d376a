import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Plugin } from 'vite';

const NAME = 'virtual:operation-icons';
const operations = fileURLToPath(new URL('../core/src/operations', import.meta.url));
const icons = fileURLToPath(new URL('../node_modules/carbon-icons-svelte/lib', import.meta.url));

/** Icons that operations name in their descriptors, in order. */
function namedIcons(): string[] {
  const files = readdirSync(operations, { recursive: true, encoding: 'utf8' }).filter((file) => /(?<!\.test)\.ts$/.test(file));
  const names = files.flatMap((file) => [...readFileSync(resolve(operations, file), 'utf8').matchAll(/icon: '(\w+)'/g)].map(([, name]) => name));
  return [...new Set(names)].sort();
}

/**
 * `virtual:operation-icons`: the icons of all operations by name, imported one by one, as all that there are would be thousands. The name in
 * an operation's own file is all it takes; one that the icon set does not have is left out, which a test tells.
 */
export function operationIcons(): Plugin {
  return {
    name: 'operation-icons',
    resolveId: (id) => (id === NAME ? `\0${NAME}` : undefined),
    load(id) {
      if (id !== `\0${NAME}`) return undefined;
      const there = new Set(readdirSync(icons));
      const names = namedIcons().filter((name) => there.has(`${name}.svelte`));
      const imports = names.map((name) => `import ${name} from 'carbon-icons-svelte/lib/${name}.svelte';`);
      return `${imports.join('\n')}\nexport const icons = { ${names.join(', ')} };\n`;
    }
  };
}
