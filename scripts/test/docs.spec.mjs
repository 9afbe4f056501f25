import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { root } from '../lib/folders.mjs';

const PAGES = [
  'README.md',
  'CONTRIBUTING.md',
  ...readdirSync(join(root, 'docs'))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
  ...readdirSync(join(root, 'docs/decisions')).map((name) => `docs/decisions/${name}`),
];
const text = (page) => readFileSync(join(root, page), 'utf8');

describe('the pages for whoever carries on', () => {
  for (const page of PAGES)
    it(`${page} links to what is there`, () => {
      const links = [...text(page).matchAll(/\]\(([^)\s#]+)(?:#[^)]*)?\)/g)]
        .map(([, to]) => to)
        .filter((to) => !/^[a-z]+:/.test(to));
      for (const to of links)
        expect(existsSync(join(root, dirname(page), to)))
          .withContext(to)
          .toBeTrue();
      expect(text(page).length).toBeGreaterThan(200);
    });

  it('CONTRIBUTING.md answers "where is ..." with places that exist, and decisions name tests and files that do', () => {
    const rows = [...text('CONTRIBUTING.md').matchAll(/^\| (.+\?) \| (.+) \|$/gm)];
    expect(rows.length).toBeGreaterThanOrEqual(10);
    const paths = PAGES.filter((page) => page !== 'README.md').flatMap((page) =>
      [
        ...text(page).matchAll(
          /`((?:core|contracts|server|web|instruments|command|scripts|docs|e2e)\/[^`\s*{}]+)`/g,
        ),
      ].map(([, path]) => [page, path]),
    );
    expect(paths.length).toBeGreaterThan(20);
    for (const [page, path] of paths)
      expect(existsSync(join(root, path)))
        .withContext(`${page}: ${path}`)
        .toBeTrue();
  });
});
