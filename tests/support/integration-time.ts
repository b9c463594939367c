/** A slow machine is no failure: what hangs is ended all the same. */
jest.setTimeout(180_000);
