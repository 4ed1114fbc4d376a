import { type ParseArgsConfig } from 'node:util';

/** What was given on the command line, by option. */
export type Values = Record<string, string | boolean | string[] | undefined>;

/** One command of `ulvrin`: its usage line, the options it takes, and what it does. */
export interface Command {
  name: string;
  /** what comes after `ulvrin NAME`; one line, or more that are indented */
  usage: string;
  options: NonNullable<ParseArgsConfig['options']>;
  /** @throws Complaint, and whatever the core throws: printed as one sentence */
  run(files: readonly string[], values: Values): void | Promise<void>;
}

/** An option that takes a text, one that takes a text each time it is given, and one that is given or not. */
export const [text, texts, flag] = [{ type: 'string' }, { type: 'string', multiple: true }, { type: 'boolean' }] as const;

/** What was given for an option that takes several texts. */
export const listOf = (given: Values[string]): readonly string[] => (Array.isArray(given) ? given : []);
