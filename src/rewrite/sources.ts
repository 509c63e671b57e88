import type { Script } from '../source/script.js';

/** The files of a form as they are before a rewrite. */
export interface Sources {
  text(file: string): string;
  /** @throws where the file is no script that parses */
  script(file: string): Script;
}
