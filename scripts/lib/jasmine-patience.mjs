/** A busy machine is no failure: what waits for a server or a database may take its time. */
jasmine.DEFAULT_TIMEOUT_INTERVAL = 300_000;
