import { chromium } from '@playwright/test';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { adapterFile, designOf } from '@near-spoke/contracts';
import { probesPlan, workUp } from '@near-spoke/core';
import config from './playwright.config';
import { enter, expect, press, test } from './crew';

const SAMPLE_HZ = 48_000;
const PITCH_HZ = 2870;

/** The sound of hands at work: when the meter sounds, seconds from and to, in a room with a fan. */
function soundOf(seconds: number, touches: readonly (readonly [number, number])[]): Buffer {
  const samples = new Float32Array(Math.round(seconds * SAMPLE_HZ));
  let [air, seed] = [0, 7];
  for (let n = 0; n < samples.length; n++) {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    air = 0.95 * air + 0.004 * (seed / 1073741824 - 1);
    samples[n] = air + 0.03 * Math.sin((2 * Math.PI * 150 * n) / SAMPLE_HZ);
  }
  for (const [from, to] of touches)
    for (let n = Math.round(from * SAMPLE_HZ); n < to * SAMPLE_HZ; n++)
      samples[n] = (samples[n] ?? 0) + 0.2 * Math.sin((2 * Math.PI * PITCH_HZ * n) / SAMPLE_HZ);
  const wav = Buffer.alloc(44 + 2 * samples.length);
  wav.write('RIFF', 0);
  wav.writeUInt32LE(36 + 2 * samples.length, 4);
  wav.write('WAVEfmt ', 8);
  wav.writeUInt32LE(16, 16);
  wav.writeUInt16LE(1, 20);
  wav.writeUInt16LE(1, 22);
  wav.writeUInt32LE(SAMPLE_HZ, 24);
  wav.writeUInt32LE(2 * SAMPLE_HZ, 28);
  wav.writeUInt16LE(2, 32);
  wav.writeUInt16LE(16, 34);
  wav.write('data', 36);
  wav.writeUInt32LE(2 * samples.length, 40);
  samples.forEach((sample, n) =>
    wav.writeInt16LE(Math.round(32767 * Math.max(-1, Math.min(1, sample))), 44 + 2 * n),
  );
  return wav;
}

const pin = (contact: string, signal: string, kind: string) => ({ contact, signal, kind });
const LEAD = {
  format: 'near-spoke/adapter',
  formatVersion: 1,
  name: 'Bell lead',
  lengthM: 0.5,
  ends: ['A', 'B'].map((id) => ({
    id,
    name: `device ${id}`,
    connector: 'header',
    sheetFace: 'mating',
    contactBearsA: 1,
    pins: [
      pin('1', 'GND', 'ground'),
      pin('2', 'BELL', 'both'),
      pin('3', 'LAMP', 'both'),
      pin('4', 'NC', 'not-connected'),
    ],
  })),
  joins: ['1', '2', '3'].map((contact) => ({ from: `A ${contact}`, to: `B ${contact}` })),
};

test.describe('hands and ears', () => {
  test('a whole lead is proved by the meter’s own tone, without a key', async ({ baseURL }) => {
    const design = designOf(adapterFile.parse(LEAD));
    const { touches } = probesPlan(workUp(design).nets, design.ends);
    // Three touches that teach; then each touch its answer: held where it beeps, two taps where it is silent.
    let at = 2;
    const sounding: [number, number][] = [];
    const sound = (...lengths: number[]): void => {
      for (const length of lengths) {
        sounding.push([at, at + length]);
        at += length + 0.3;
      }
      at += 1.2;
    };
    for (let n = 0; n < 3; n++) sound(0.6);
    at += 1.5;
    for (const { should } of touches) sound(...(should === 'beep' ? [0.8] : [0.15, 0.15]));
    const folder = mkdtempSync(join(tmpdir(), 'hands-'));
    const file = join(folder, 'hands.wav');
    writeFileSync(file, soundOf(at + 2, sounding));
    const browser = await chromium.launch({
      ...config.use?.launchOptions,
      args: [
        ...(config.use?.launchOptions?.args ?? []),
        '--use-fake-ui-for-media-stream',
        '--use-fake-device-for-media-stream',
        `--use-file-for-fake-audio-capture=${file}%noloop`,
      ],
    });
    try {
      const page = await (await browser.newContext({ ...(baseURL ? { baseURL } : {}) })).newPage();
      await enter(page);
      await page.goto('/bench/adapters');
      await page.getByLabel('Or read an adapter’s file').setInputFiles({
        name: 'lead.json',
        mimeType: 'application/json',
        buffer: Buffer.from(JSON.stringify({ ...LEAD, name: `Bell lead ${Date.now()}` })),
      });
      await expect(page.getByText('New, kept in this browser only')).toBeVisible();
      await press(page, 'k');
      await page.getByLabel('What was changed, and why').fill('first drawing');
      await page.getByRole('button', { name: 'Keep version 1' }).click();
      await page.getByRole('link', { name: 'Prove', exact: true }).click();
      await expect(page.getByText(`1 of ${touches.length}`)).toBeVisible();
      await page.getByRole('button', { name: /^Listen/ }).click();
      await expect(page.getByText('half a second each')).toBeVisible();
      await expect(page.getByText('your beeper, 2.87 kHz')).toBeVisible();
      // From here on no key and no click: the hands have both probes.
      await expect(page.locator('#prove-title')).toHaveText('Proved');
      await page.getByLabel('Mark on the lead').fill('heard');
      await page.getByRole('button', { name: 'Keep this build' }).click();
      await expect(page.getByRole('heading', { name: 'Built 1, proved' })).toBeVisible();
    } finally {
      await browser.close();
      rmSync(folder, { recursive: true });
    }
  });
});
