// In place of `server-only`, which a worker of the server is.
export const nothing = null
