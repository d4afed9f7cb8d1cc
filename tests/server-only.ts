/** Unit tests run on the server side of every module; nothing more is needed for it. */
export const onServer = true
