/** Integration tests talk to a database and to devices that keep their own time. */
jest.setTimeout(30_000);
