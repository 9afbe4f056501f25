import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { scopeAdapter, worldFile, type ScopeAdapter } from '@near-spoke/contracts';
import { Scope } from '../../instruments/src/scope.js';
import { InstrumentError } from '../src/instruments/client.js';
import { readScopeAdapter } from '../src/instruments/scope-adapter.js';
import { ScopeClient, type ScopeRequest } from '../src/instruments/scope.js';
import { DEMO, enter, startApp } from './harness.js';

const shipped = new URL('../../instruments/scope.adapter.json', import.meta.url).pathname;
const world = worldFile.parse(JSON.parse(readFileSync(join(DEMO, 'world.json'), 'utf8')));
const P1_01 = '00000020-0000-4000-8000-000000000001';
const request = (change: Partial<ScopeRequest> = {}): ScopeRequest => ({
  line: P1_01,
  end: 'near',
  pair: '1-2',
  widthS: 1e-8,
  riseS: 2e-9,
  intervalS: 5e-10,
  samples: 900,
  launchS: 4e-8,
  ...change,
});

interface Standing {
  adapter: ScopeAdapter;
  close: () => void;
}

/** Something at a loopback port, with the shipped adapter or a changed one pointing there. */
async function standing(
  serve: (socket: Socket) => void,
  change: Partial<ScopeAdapter> = {},
): Promise<Standing> {
  const sockets: Socket[] = [];
  const server: Server = createServer((socket) => {
    sockets.push(socket);
    socket.on('error', () => undefined);
    serve(socket);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const adapter = readScopeAdapter(shipped, String(port));
  if (!adapter) throw new Error('no adapter');
  return {
    adapter: { ...adapter, silenceMs: 400, ...change },
    close: () => {
      for (const socket of sockets) socket.destroy();
      server.close();
    },
  };
}

/** Answers line by line. */
const answering =
  (answer: (line: string) => string | Buffer | null) =>
  (socket: Socket): void => {
    let pending = '';
    socket.on('data', (chunk) => {
      const lines = (pending + chunk.toString()).split('\n');
      pending = lines.pop() ?? '';
      for (const line of lines) {
        const said = answer(line);
        if (said === null) continue;
        socket.write(said);
        socket.write('\n');
      }
    });
  };
const standIn = (): ((socket: Socket) => void) => {
  const scope = new Scope(() => world);
  return answering((line) => scope.answer(line));
};
/** A small instrument that answers all that the shipped adapter asks, but for what the case changes. */
const except = (query: string, said: string | Buffer | null): ((socket: Socket) => void) =>
  answering((line) => {
    if (line.startsWith(query)) return said;
    if (line === 'SYSTem:ERRor?') return '0,"No error"';
    if (line === '*OPC?') return '1';
    if (line === 'WAVeform:PREamble?') return '1E-9,-4E-8,1E-2,0,20';
    if (line === 'WAVeform:DATA?') return Buffer.concat([Buffer.from('#220'), Buffer.alloc(20, 1)]);
    return line.endsWith('?') ? 'x' : null;
  });

describe('the bench oscilloscope', () => {
  it('gives a trace as its adapter file says, by block and by text alike', async () => {
    const block = await standing(standIn());
    const text = await standing(standIn(), { waveform: { form: 'ascii', query: 'WAV:FORM ASC;DATA?' } });
    const [one, other] = await Promise.all(
      [block, text].map(({ adapter }) => new ScopeClient(adapter).take(request())),
    );
    block.close();
    text.close();
    expect(one?.trace.volts.length).toBe(900);
    expect(one?.trace.intervalS).toBe(5e-10);
    expect(one?.trace.startS).toBeCloseTo(-4e-8, 15);
    expect(one?.simulated).toBeTrue();
    expect(Math.max(...(one?.trace.volts ?? []))).toBeGreaterThan(0.5);
    const off = one?.trace.volts.map((volt, n) => Math.abs(volt - (other?.trace.volts[n] ?? NaN)));
    expect(Math.max(...(off ?? [NaN]))).toBeLessThan(1e-5);
  });

  it('is understood when its answer comes in crumbs', async () => {
    const { adapter, close } = await standing((socket) => {
      const scope = new Scope(() => world);
      socket.on('data', (chunk) => {
        for (const line of chunk.toString().trimEnd().split('\n')) {
          const said = scope.answer(line);
          if (said === null) continue;
          const bytes = Buffer.concat([Buffer.from(said), Buffer.from('\n')]);
          for (let n = 0; n < bytes.length; n += 7) socket.write(bytes.subarray(n, n + 7));
        }
      });
    });
    const { trace } = await new ScopeClient(adapter).take(request());
    close();
    expect(trace.volts.length).toBe(900);
  });

  const failures: [string, (socket: Socket) => void, InstrumentError['kind'], RegExp][] = [
    ['refuses', except('SYSTem:ERRor?', '-222,"Data out of range"'), 'refused', /Data out of range \(-222\)/],
    ['falls silent', except('WAVeform:DATA?', null), 'silent', /stopped answering/],
    ['breaks a block off', except('WAVeform:DATA?', '#220abc'), 'silent', /stopped answering/],
    ['sends no block', except('WAVeform:DATA?', 'sorry'), 'garbled', /makes no sense/],
    ['sends a block without a length', except('WAVeform:DATA?', '#0abc'), 'garbled', /makes no sense/],
    [
      'sends fewer samples than it told',
      except('WAVeform:PREamble?', '1E-9,0,1E-2,0,900'),
      'garbled',
      /told of 900 samples and sent 20/,
    ],
    ['tells no interval', except('WAVeform:PREamble?', 'none,0,1,0,20'), 'garbled', /makes no sense/],
    ['hangs up', (socket) => void socket.end(), 'disconnected', /hung up/],
  ];
  for (const [what, serve, kind, words] of failures) {
    it(`that ${what} ends in "${kind}", never in a trace`, async () => {
      const { adapter, close } = await standing(serve);
      const result = await new ScopeClient(adapter).take(request()).catch((error: unknown) => error);
      close();
      expect(result).toBeInstanceOf(InstrumentError);
      expect([(result as InstrumentError).kind, (result as InstrumentError).message]).toEqual([
        kind,
        jasmine.stringMatching(words),
      ]);
    });
  }

  it('is said to be out of reach, or not to be there at all', async () => {
    const { adapter, close } = await standing(() => undefined);
    close();
    expect(await new ScopeClient({ ...adapter, silenceMs: 300 }).identify()).toEqual(
      jasmine.objectContaining({ connected: false, simulated: true }),
    );
    expect(await new ScopeClient(null).identify()).toBeNull();
    await expectAsync(new ScopeClient(null).take(request())).toBeRejectedWithError(
      InstrumentError,
      /No oscilloscope is set up/,
    );
  });

  it('serves the application, and a refusal reaches the person in its words', async () => {
    const { adapter, close } = await standing(standIn());
    const app = await startApp({ scope: new ScopeClient(adapter) });
    const [technician, viewer] = [await enter(app, 'technician'), await enter(app, 'viewer')];
    const body = { lineId: P1_01, pair: '1-2', widthS: 1e-8, riseS: 2e-9, intervalS: 5e-10, samples: 800 };
    const known = await viewer.get('/api/instruments/scope').expect(200);
    const taken = await technician.post('/api/instruments/traces', body).expect(200);
    const refused = await technician.post('/api/instruments/traces', { ...body, pair: '1-8' });
    const wrong = await technician.post('/api/instruments/traces', { ...body, samples: 1e6 });
    const { status } = await viewer.post('/api/instruments/traces', body);
    await app.close();
    close();
    expect(known.body).toEqual(jasmine.objectContaining({ connected: true, simulated: true }));
    expect(taken.body.trace.volts.length).toBe(800);
    expect(taken.body.lead).toEqual({ lengthM: 1, velocityFactor: 0.66 });
    expect([refused.status, refused.body.detail]).toEqual([422, jasmine.stringMatching(/Hardware missing/)]);
    expect(wrong.status).toBe(400);
    expect(status).toBe(403);
  });
});

describe('an adapter file', () => {
  const folder = mkdtempSync(join(tmpdir(), 'adapter-'));
  const told = JSON.parse(readFileSync(shipped, 'utf8')) as Record<string, unknown>;
  const wrong = (text: string): unknown => {
    const file = join(folder, 'a.json');
    writeFileSync(file, text);
    try {
      return readScopeAdapter(file);
    } catch (error) {
      return (error as Error).message;
    }
  };

  it('that ships is a good one', () => {
    expect(scopeAdapter.safeParse(told).success).toBeTrue();
    expect(readScopeAdapter(undefined)).toBeNull();
  });

  it('that is wrong is refused with the field and the reason', () => {
    expect(wrong('{')).toMatch(/a\.json: .*JSON/);
    expect(wrong(JSON.stringify({ ...told, identify: '*IDN' }))).toMatch(
      /identify: A query ends in a question mark/,
    );
    expect(wrong(JSON.stringify({ ...told, setUp: ['WIDTh {width}'] }))).toMatch(
      /In braces stand only widthS/,
    );
    expect(
      wrong(JSON.stringify({ ...told, preamble: { query: 'P?', fields: ['startS', 'points'] } })),
    ).toMatch(/preamble.*intervalS and startS/);
    expect(
      wrong(JSON.stringify({ ...told, waveform: { form: 'block', query: 'D?', sample: 'int12' } })),
    ).toMatch(/waveform\.sample/);
  });
});
