import { accessSync, constants, existsSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { paintFor, type Paint } from '../report/paint.js';
import { reasonOf } from '../source/workspace.js';

/** Exit codes of the program. */
export const exit = { done: 0, no: 1, usage: 2, fault: 3 } as const;
export type ExitCode = (typeof exit)[keyof typeof exit];

/** Trouble that a person can mend: one message, the next step, exit code 2. */
export class UsageTrouble extends Error {
  constructor(
    message: string,
    readonly next: string,
  ) {
    super(message);
  }
}

/** A self-check that failed: exit code 3. */
export class ToolFault extends Error {}

/** Options that every command knows. */
export interface CommonOptions {
  format: string;
  out?: string | undefined;
  config?: string | undefined;
  verbose: boolean;
  quiet: boolean;
  color: boolean;
}

/** Where a command's words go. */
export interface Output {
  cwd: string;
  paint: Paint;
  /** How many characters and lines the terminal has that shows the result; undefined where none does. */
  width: number | undefined;
  height: number | undefined;
  /** Gives the result: to stdout, or to the file of `--out`. */
  give(text: string): void;
  /** Says something that is no result, on stderr. */
  say(text: string): void;
  /** Whether somebody looks at standard error who wants to know how far a long run is. */
  shows: boolean;
  /**
   * Makes sure that the result has a place to go, before anything is written.
   * @param sources files that the result may not overwrite
   * @throws UsageTrouble
   */
  check(sources: readonly string[]): void;
}

/** Makes the output for a command's options. */
export function outputFor(options: CommonOptions): Output {
  const cwd = process.cwd();
  const toFile = options.out !== undefined;
  const wanted = options.color && !process.env['NO_COLOR'];
  const colour =
    wanted && !toFile && options.format === 'text' && (Boolean(process.env['FORCE_COLOR']) || process.stdout.isTTY);
  let given = false;
  return {
    cwd,
    paint: paintFor(colour),
    width: !toFile && process.stdout.isTTY ? process.stdout.columns : undefined,
    height: !toFile && process.stdout.isTTY ? process.stdout.rows : undefined,
    give(text) {
      const whole = text.endsWith('\n') ? text : `${text}\n`;
      if (options.out === undefined) {
        process.stdout.write(whole);
        return;
      }
      try {
        writeFileSync(path.resolve(cwd, options.out), whole, { flag: given ? 'a' : 'w' });
        given = true;
      } catch (error) {
        throw new UsageTrouble(
          `cannot write ${options.out}: ${reasonOf(error)}`,
          'give --out a place that can be written',
        );
      }
    },
    say(text) {
      if (!options.quiet) process.stderr.write(`${text}\n`);
    },
    shows: !options.quiet && process.stderr.isTTY,
    check(sources) {
      if (options.out === undefined) return;
      const file = path.resolve(cwd, options.out);
      const next = 'give --out a place of its own; nothing was written';
      if (sources.includes(file)) throw new UsageTrouble(`--out ${options.out} is a file of the form`, next);
      try {
        if (existsSync(file) && !statSync(file).isFile()) throw new Error('it is no plain file');
        accessSync(existsSync(file) ? file : path.dirname(file), constants.W_OK);
      } catch (error) {
        throw new UsageTrouble(`cannot write ${options.out}: ${reasonOf(error)}`, next);
      }
    },
  };
}

/** A result as JSON text. */
export function jsonText(value: object): string {
  return JSON.stringify(value, null, 2);
}
