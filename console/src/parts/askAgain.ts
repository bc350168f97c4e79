const AFTER_ERROR_MS = 4_000 // a service in trouble is not asked as often

/** In how many milliseconds to ask again, as long as what was asked about goes on; false: not again. */
export const askAgain = (ms: number, goesOn: boolean, error: unknown) =>
  goesOn && (error ? Math.max(ms, AFTER_ERROR_MS) : ms)
