/** Shows on a terminal how far a long run is. */
export interface ProgressBar {
  show(done: number, all: number): void;
  /** Takes the bar away. */
  end(): void;
}

/**
 * Makes a bar on standard error.
 * @param doing what is done, the first word of the line
 * @param what what is counted
 */
export async function progressBar(doing: string, what: string): Promise<ProgressBar> {
  const { default: progress } = await import('cli-progress');
  const bar = new progress.SingleBar({
    stream: process.stderr,
    format: `${doing} [{bar}] {value}/{total} ${what}`,
    clearOnComplete: true,
    hideCursor: true,
  });
  let started = false;
  return {
    show(done, all) {
      if (!started) bar.start(all, done);
      started = true;
      bar.update(done);
    },
    end() {
      if (started) bar.stop();
    },
  };
}
