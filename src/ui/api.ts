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
export async function api<T>(
  method: 'GET' | 'POST' | 'DELETE',
  url: string,
  body?: unknown,
  keepalive = false,
  signal: AbortSignal | null = null,
): Promise<T> {
  const away = () => new ApiError(0, '', 'The server cannot be reached. What you entered is kept here and sent when it answers.')
  let response: Response
  try {
    response = await fetch(url, {
      method,
      keepalive,
      signal,
      ...(body === undefined
        ? {}
        : body instanceof Blob
          ? { body, headers: { 'content-type': 'application/zip' } }
          : { body: typeof body === 'string' ? body : JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    })
  } catch {
    throw away()
  }
  if (!response.ok) throw await refused(response)
  try {
    return (await response.json()) as T
  } catch {
    // An answer that was cut off is none: the server may have gone down in the middle of it.
    throw away()
  }
}

async function refused(response: Response): Promise<ApiError> {
  const json = (await response.json().catch(() => null)) as { error?: { path: string; message: string } } | null
  return new ApiError(response.status, json?.error?.path ?? '', json?.error?.message ?? `The server answered ${response.status}.`, json)
}

/** A file or a stream of our own server, which may be given up; with `asked` it is asked for by a POST. @throws ApiError, or AbortError */
export async function fetched(url: string, signal: AbortSignal, asked?: object): Promise<Response> {
  const how = asked ? { method: 'POST', body: JSON.stringify(asked), headers: { 'content-type': 'application/json' } } : {}
  const response = await fetch(url, { signal, ...how }).catch((e: unknown) => {
    if (signal.aborted) throw e
    throw new ApiError(0, '', 'The server cannot be reached.')
  })
  if (!response.ok) throw await refused(response)
  return response
}
