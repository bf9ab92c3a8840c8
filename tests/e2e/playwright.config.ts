import { defineConfig } from '@playwright/test';
import { rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const port = 5190;
const data = join(tmpdir(), 'vitrine-e2e');
if (!process.env['TEST_WORKER_INDEX']) rmSync(data, { recursive: true, force: true });

export default defineConfig({
  testDir: '.',
  timeout: 60_000,
  workers: 1,
  reporter: 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
  webServer: {
    command: `dotnet ../../src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll demo --data ${data} --port ${port} --web ../../web/dist --demo-files ../../demo`,
    url: `http://127.0.0.1:${port}/api/me`,
    stdout: 'pipe',
    timeout: 60_000,
  },
});
