import { defineConfig } from '@playwright/test';
import { rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const demoPort = 5190;
export const servePort = 5191;
const data = (mode: string) => join(tmpdir(), `vitrine-e2e-${mode}`);
if (!process.env['TEST_WORKER_INDEX']) for (const mode of ['demo', 'serve']) rmSync(data(mode), { recursive: true, force: true });

const server = (mode: string, port: number) => ({
  command: `dotnet ../../src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll ${mode} --data ${data(mode)} --port ${port} --web ../../web/dist --demo-files ../../demo`,
  url: `http://127.0.0.1:${port}/api/me`,
  timeout: 60_000,
});

export default defineConfig({
  testDir: '.',
  timeout: 60_000,
  workers: 1,
  reporter: 'list',
  use: {
    baseURL: `http://127.0.0.1:${demoPort}`,
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: [server('demo', demoPort), server('serve', servePort)],
});
