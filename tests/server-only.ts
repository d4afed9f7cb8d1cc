// Unit tests run on the server side of every module; nothing is needed for it.
