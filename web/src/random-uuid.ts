import { v4 } from 'uuid';

// Browsers have it on safe connections and on the machine itself alone; a tablet on the crew's own network has neither. What is
// drawn is handed over: without it the package would ask for the very function that it stands in for.
(crypto as { randomUUID?: () => string }).randomUUID ??= () =>
  v4({ random: crypto.getRandomValues(new Uint8Array(16)) });
