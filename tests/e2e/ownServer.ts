import { expect, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { write } from './people';

export const password = 'ten letters and more';
const root = join(__dirname, '../..');
const dll = join(root, 'src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll');

/** A port that nobody on this machine listens on. */
const freePort = () =>
  Number(
    execFileSync(process.execPath, [
      '-e',
      "const s = require('net').createServer().listen(0, '127.0.0.1', () => { process.stdout.write(String(s.address().port)); s.close(); })",
    ]).toString(),
  );

/** A server of one file's own, over a folder of its own, that may be killed and started again. */
export class OwnServer {
  readonly base: string;
  readonly data = mkdtempSync(join(tmpdir(), 'vitrine-e2e-own-'));
  private readonly port = freePort();
  private process: ChildProcess | undefined;

  constructor(private readonly mode: 'serve' | 'demo' = 'serve') {
    this.base = `http://127.0.0.1:${this.port}`;
  }

  /** Begins with what another workspace holds, instead of nothing. */
  copyFrom(data: string) {
    cpSync(data, this.data, { recursive: true });
  }

  async start() {
    const given = {
      '--data': this.data,
      '--port': String(this.port),
      '--web': join(root, 'web/dist'),
      '--demo-files': join(root, 'demo'),
      '--password-iterations': '1',
    };
    this.process = spawn('dotnet', [dll, this.mode, ...Object.entries(given).flat()], { stdio: 'ignore' });
    const { process } = this;
    const answers = () =>
      fetch(`${this.base}/healthz`).then(
        (a) => a.ok,
        () => false,
      );
    await expect.poll(answers, { timeout: 60_000 }).toBe(true);
    // Another program may answer at this address: then this one could not begin.
    expect(process.exitCode).toBeNull();
  }

  /** Without a warning, as a power cut would. */
  kill = () => this.stop('SIGKILL');

  async stop(signal: 'SIGKILL' | 'SIGTERM') {
    const gone = new Promise((done) => this.process!.once('exit', done));
    this.process!.kill(signal);
    await gone;
  }

  end() {
    this.process?.kill('SIGKILL');
    rmSync(this.data, { recursive: true, force: true });
  }
}

/** Someone with an account, in a browser of their own. */
export async function person(browser: Browser, base: string, email: string): Promise<[BrowserContext, Page]> {
  const context = await browser.newContext({ baseURL: base });
  const page = await context.newPage();
  await write(page, 'post', '/api/sign-in', { email, password });
  return [context, page];
}
