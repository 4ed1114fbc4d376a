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

/** An option that takes a text, and one that is given or not. */
export const [text, flag] = [{ type: 'string' }, { type: 'boolean' }] as const;
