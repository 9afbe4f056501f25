import type { Socket } from 'node:net';
import { encodeReading } from '@near-spoke/contracts';
import { observe } from '@near-spoke/core';
import { InstrumentClient, InstrumentError } from '../src/instruments/client.js';
import { expectation, linkWith } from '../../core/test/links.js';
import { enter, instrumentThat, jobWithLink, startApp } from './harness.js';

const GREETING = 'NEAR-SPOKE-INSTRUMENT 1\n';
const whole = encodeReading(observe(linkWith(expectation()), 'coded-mapper'));
const answerTo = (socket: Socket, give: (request: string) => void): void => {
  socket.write(GREETING);
  socket.on('data', (chunk) => give(chunk.toString()));
};

/** Answers who it is, and a reading as the case says. */
const reading =
  (give: (socket: Socket) => void) =>
  (socket: Socket): void =>
    answerTo(socket, (request) => {
      if (request.startsWith('IDENTIFY'))
        socket.write('NAME Test set\nSIMULATED no\nCLASSES coded-mapper\nDONE 3\n');
      else give(socket);
    });

const failures: [string, (socket: Socket) => void, InstrumentError['kind']][] = [
  ['hangs up in the middle', reading((s) => s.end(`${whole.slice(0, 4).join('\n')}\nARRI`)), 'disconnected'],
  [
    'falls silent after half a line',
    reading((s) => s.write('READING coded-mapper near\nARRIVES 1')),
    'silent',
  ],
  ['counts its lines wrong', reading((s) => s.write(`${whole.join('\n')}\nDONE 3\n`)), 'garbled'],
  ['sends noise', reading((s) => s.write('\u0007\u0000 #### \nDONE 1\n')), 'garbled'],
  ['sends one endless line', reading((s) => s.write('x'.repeat(5000))), 'garbled'],
  ['sends endless lines', reading((s) => s.write('ARRIVES 1 1\n'.repeat(900))), 'garbled'],
  [
    'answers for another instrument',
    reading((s) => s.write('READING lamp-pairs near\nLAMP 1-2 lit\nDONE 2\n')),
    'garbled',
  ],
  ['refuses', reading((s) => s.write('ERROR unknown-link There is no cable here.\n')), 'refused'],
  ['is no instrument at all', (s) => s.write('220 mail ready\n'), 'garbled'],
];

describe('an instrument', () => {
  it('gives its reading even when it arrives in crumbs', async () => {
    const { client, server } = await instrumentThat(
      reading((socket) => {
        const bytes = [...`${whole.join('\r\n')}\r\nDONE ${whole.length}\r\n`];
        const next = (): void => {
          const crumb = bytes.splice(0, 3).join('');
          if (crumb) socket.write(crumb, () => setImmediate(next));
        };
        next();
      }),
    );
    const taken = await client.read('coded-mapper', 'near', 'x');
    server.close();
    expect(taken).toEqual({
      takenId: taken.takenId,
      simulated: false,
      instrumentName: 'Test set',
      reading: observe(linkWith(expectation()), 'coded-mapper'),
    });
  });

  for (const [what, serve, kind] of failures) {
    it(`that ${what} ends in "${kind}", never in a reading`, async () => {
      const { client, server, sockets } = await instrumentThat(serve);
      const result = await client.read('coded-mapper', 'near', 'x').catch((error: unknown) => error);
      for (const socket of sockets) socket.destroy();
      server.close();
      expect(result).toBeInstanceOf(InstrumentError);
      expect((result as InstrumentError).kind).toBe(kind);
    });
  }

  it('that is not there is said to be out of reach, and health and work go on without it', async () => {
    const { client, server } = await instrumentThat(() => undefined);
    await new Promise((resolve) => server.close(resolve));
    expect(await client.identify()).toEqual([
      { name: 'Instrument', classes: [], connected: false, simulated: false },
    ]);
    await expectAsync(client.read('coded-mapper', 'near', 'x')).toBeRejectedWithError(
      InstrumentError,
      /cannot be reached/,
    );
    expect(await new InstrumentClient(null).identify()).toEqual([]);
  });

  it('that breaks off leaves no half record behind', async () => {
    const { client, server } = await instrumentThat(reading((s) => s.end('READING coded-mapper near\n')));
    const it1 = await startApp({ instruments: client });
    const lead = await enter(it1, 'lead');
    const { linkId } = await jobWithLink(lead);
    const { status, body } = await lead.post('/api/instruments/readings', {
      linkId,
      instrument: 'coded-mapper',
    });
    const { tests } = (await lead.get(`/api/links/${linkId}`)).body;
    await it1.close();
    server.close();
    expect([status, body.title]).toEqual([502, 'No reading']);
    expect(tests).toEqual([]);
  });
});

describe('health', () => {
  it('is 200 while the database answers and 503 when it does not', async () => {
    const it1 = await startApp();
    const lead = await enter(it1, 'lead');
    expect((await lead.get('/api/health')).body).toEqual({ status: 'ok', version: '9.9.9', database: 'ok' });
    await it1.query('ALTER TABLE setting RENAME TO gone');
    const { status, body } = await lead.get('/api/health');
    await it1.close();
    expect([status, body.database]).toEqual([503, 'unreachable']);
  });
});
