import { writeFileSync } from 'node:fs';
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
  /** Gives the result: to stdout, or to the file of `--out`. */
  give(text: string): void;
  /** Says something that is no result, on stderr. */
  say(text: string): void;
}

/** Makes the output for a command's options. */
export function outputFor(options: CommonOptions): Output {
  const cwd = process.cwd();
  const toFile = options.out !== undefined;
  const wanted = options.color && !process.env['NO_COLOR'];
  const colour =
    wanted && !toFile && options.format === 'text' && (Boolean(process.env['FORCE_COLOR']) || process.stdout.isTTY);
  return {
    cwd,
    paint: paintFor(colour),
    give(text) {
      const whole = text.endsWith('\n') ? text : `${text}\n`;
      if (options.out === undefined) {
        process.stdout.write(whole);
        return;
      }
      try {
        writeFileSync(path.resolve(cwd, options.out), whole);
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
  };
}

/** A result as JSON text. */
export function jsonText(value: object): string {
  return JSON.stringify(value, null, 2);
}
