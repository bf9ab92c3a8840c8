// A port that nobody on this machine listens on.
import { createServer } from 'node:net';

export const freePort = () =>
  new Promise((found) => {
    const asking = createServer().listen(0, '127.0.0.1', () => {
      const { port } = asking.address();
      asking.close(() => found(port));
    });
  });
