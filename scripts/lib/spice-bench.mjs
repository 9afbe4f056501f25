import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { bundled } from './reflectometry-bench.mjs';

/** Whether a command is there. */
export function has(command) {
  try {
    execFileSync(command, ['--version'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

/** The forward model against a general circuit simulator, as a paragraph; says so where none is installed. */
export async function spiceBench(folder) {
  if (!has('ngspice'))
    return 'The circuit simulator (Debian package ngspice) was not installed: the forward model was not compared.';
  const { spiceCases } = await import(pathToFileURL(await bundled('spice-cases', folder)).href);
  const rows = spiceCases().map(({ name, netlist, volts, intervalS, launchV, ms }) => {
    const circuit = join(folder, 'circuit.cir');
    const table = join(folder, 'table.txt');
    writeFileSync(circuit, netlist.replace('%TABLE%', table));
    const began = performance.now();
    execFileSync('ngspice', ['-b', circuit], { stdio: 'ignore' });
    const spiceMs = performance.now() - began;
    const points = readFileSync(table, 'utf8')
      .trim()
      .split('\n')
      .map((line) => line.trim().split(/\s+/).map(Number));
    let at = 0;
    let squares = 0;
    volts.forEach((volt, n) => {
      const t = n * intervalS;
      while (at + 2 < points.length && points[at + 1][0] < t) at++;
      const [t0, v0] = points[at];
      const [t1, v1] = points[at + 1];
      const theirs = t1 > t0 ? v0 + ((v1 - v0) * (t - t0)) / (t1 - t0) : v0;
      squares += (volt - theirs) ** 2;
    });
    return { name, off: Math.sqrt(squares / volts.length) / launchV, ms, spiceMs };
  });
  const table = rows.map(
    ({ name, off, ms, spiceMs }) =>
      `| ${name} | ${(100 * off).toFixed(2)} % | ${ms.toFixed(1)} ms | ${spiceMs.toFixed(0)} ms | ${(spiceMs / ms).toFixed(0)} |`,
  );
  return `The forward model against a general circuit simulator (ngspice): difference as root mean square by the launch.

| Network | Off by | Ours | Theirs | Times faster |
| --- | --- | --- | --- | --- |
${table.join('\n')}`;
}
