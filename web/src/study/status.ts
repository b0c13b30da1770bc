/** Names of the status numbers that come with every row. */
export const STATUS = { blank: 0, used: 1, aside: 2, problem: 3, unknown: 4, unknownAside: 5 } as const;

/** Whether a row is drawn: it is in use, or set aside. */
export const isDrawnRow = (status: number | undefined) => status === STATUS.used || status === STATUS.aside;
