/** Runs one request at a time; of those asked for meanwhile only the newest is made. `signal`: breaks off one that is forgotten. */
export function newestWins<Input, Output>(
  request: (input: Input, signal: AbortSignal) => Promise<Output>,
  done: (output: Output, input: Input) => void,
) {
  let running = false;
  let next: { input: Input } | null = null;
  let round = 0;
  let stop = new AbortController();

  async function pump() {
    running = true;
    while (next) {
      const { input } = next;
      const mine = round;
      next = null;
      try {
        const output = await request(input, stop.signal);
        if (mine === round) done(output, input);
      } catch {
        // A lost preview is no loss: the next one, or the stored change, brings the picture up to date.
      }
    }
    running = false;
  }

  return {
    ask(input: Input) {
      next = { input };
      if (!running) void pump();
    },
    /** Forget what is under way. */
    cancel() {
      next = null;
      round++;
      stop.abort();
      stop = new AbortController();
    },
  };
}
