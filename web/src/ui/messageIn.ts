/** What an error says. */
export const messageIn = (error: unknown) => (error instanceof Error ? error.message : String(error));
