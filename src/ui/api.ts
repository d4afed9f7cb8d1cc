/** What the server refused, where, and with what status; 0 when it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly path: string,
    message: string,
    readonly body: unknown = null,
  ) {
    super(message)
    this.name = 'ApiError'
  }
}

/** JSON to and from our own server; what is small is sent even where the page is left at once. @throws ApiError */
export async function api<T>(method: 'GET' | 'POST' | 'DELETE', url: string, body?: unknown, keepalive = false): Promise<T> {
  let response: Response
  try {
    response = await fetch(url, {
      method,
      keepalive,
      ...(body === undefined
        ? {}
        : { body: typeof body === 'string' ? body : JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    })
  } catch {
    throw new ApiError(0, '', 'The server cannot be reached. What you entered is kept here and sent when it answers.')
  }
  const json = (await response.json().catch(() => null)) as { error?: { path: string; message: string } } | null
  if (!response.ok)
    throw new ApiError(response.status, json?.error?.path ?? '', json?.error?.message ?? `The server answered ${response.status}.`, json)
  return json as T
}
