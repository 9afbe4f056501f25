import { readFileSync } from 'node:fs';
import { fieldErrors, scopeAdapter, type ScopeAdapter } from '@near-spoke/contracts';

/**
 * The adapter file of the bench oscilloscope; null where none is named. `port` takes the place of
 * the file's.
 *
 * @throws Error that says what is wrong with the file and in which field
 */
export function readScopeAdapter(file: string | undefined, port?: string): ScopeAdapter | null {
  if (!file) return null;
  let json: unknown;
  try {
    json = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new Error(
      `${file}: ${error instanceof Error ? error.message : String(error)}. Mend it, or unset SCOPE_ADAPTER.`,
    );
  }
  const parsed = scopeAdapter.safeParse(json);
  if (!parsed.success) {
    const [first] = fieldErrors(parsed.error);
    throw new Error(`${file}: ${first ? `${first.path}: ${first.message}` : 'it is no adapter file.'}`);
  }
  const { address, ...adapter } = parsed.data;
  return { ...adapter, address: port ? { ...address, port: Number(port) } : address };
}
