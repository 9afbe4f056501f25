import express from 'express';
import request from 'supertest';
import { isFromHere } from '../src/access/here.js';

/** Whether a request from this machine, with these headers, is taken for one that was made on it. */
async function fromHere(trusted: string, headers: Record<string, string>): Promise<unknown> {
  const app = express();
  if (trusted) app.set('trust proxy', trusted);
  app.get('/', (asked, response) => void response.json({ here: isFromHere(asked), ip: asked.ip }));
  return (await request(app).get('/').set(headers)).body;
}

describe('where a request came from', () => {
  it('is this machine when nobody passed it on, whoever is believed', async () => {
    for (const trusted of ['', 'loopback'])
      expect(await fromHere(trusted, {})).toEqual(jasmine.objectContaining({ here: true }));
  });

  it('is not this machine when somebody passed it on whose word is not believed', async () => {
    for (const header of ['x-forwarded-for', 'x-forwarded-proto', 'forwarded', 'via', 'x-real-ip'])
      expect(await fromHere('', { [header]: '127.0.0.1' }))
        .withContext(header)
        .toEqual(jasmine.objectContaining({ here: false }));
  });

  it('is what a believed one says: all it names have to be this machine', async () => {
    expect(await fromHere('loopback', { 'x-forwarded-for': '127.0.0.1' })).toEqual({
      here: true,
      ip: '127.0.0.1',
    });
    expect(await fromHere('loopback', { 'x-forwarded-for': '198.51.100.4' })).toEqual({
      here: false,
      ip: '198.51.100.4',
    });
    // Who says of themselves that they are this machine is named behind it by the one that passed them on.
    expect(await fromHere('loopback', { 'x-forwarded-for': '127.0.0.1, 198.51.100.4' })).toEqual({
      here: false,
      ip: '198.51.100.4',
    });
    // Another proxy before ours leaves its traces.
    expect(await fromHere('loopback', { 'x-forwarded-for': '127.0.0.1', via: '1.1 front' })).toEqual(
      jasmine.objectContaining({ here: false }),
    );
  });
});
