// Unit tests run on the server side of every module.
export {}
