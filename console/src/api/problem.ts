/** What the service refused: a problem document (RFC 9457) with a remedy. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly remedy: string,
    /** What else the service said, by the problem's code. */
    readonly facts: Record<string, unknown> = {},
  ) {
    super(message)
  }
}
