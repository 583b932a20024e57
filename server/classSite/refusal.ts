/**
 * What a request is answered with when it cannot be met: an HTTP status, a word, and headers that help to do it right.
 */
export class Refusal extends Error {
  constructor(
    readonly statusCode: number,
    message: string,
    readonly headers: Record<string, string> = {},
  ) {
    super(message)
  }
}
