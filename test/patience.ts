/** Tests talk to a database, to devices that keep their own time, and run on machines that may be busy. */
jest.setTimeout(60_000);
