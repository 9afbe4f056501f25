import type { Block, Cell, Photos, PrintedPhoto, Report } from './blocks.js';
import { makeReport } from './make-report.js';
import { escapeXml, PAPER } from '../drawing/svg.js';
import type { ReportData } from './report-data.js';

/** Marks the data inside the file; what stands between is JSON in which no tag can begin. */
export const DATA_ID = 'near-spoke-report';

const STYLE = `
:root{color-scheme:light}
body{margin:0;background:#f5f4ef;color:${PAPER.ink};font:15px/1.45 "Atkinson Hyperlegible Next",system-ui,sans-serif}
main{max-width:210mm;margin:0 auto;padding:14mm;background:${PAPER.sheet};box-sizing:border-box}
h1{margin:0;font-size:26px}h2{margin:34px 0 8px;font-size:19px;border-bottom:2px solid ${PAPER.ink};padding-bottom:3px}
h3{margin:20px 0 6px;font-size:16px}p{margin:6px 0}
.quiet,.note{color:${PAPER.second}}.note{font-size:12.5px;display:block}.strong{font-weight:700}
.caution{border-left:4px solid ${PAPER.wrong};padding-left:9px}
.scroll{overflow-x:auto}table{border-collapse:collapse;width:100%;font-size:13.5px}
th,td{text-align:left;vertical-align:top;padding:5px 10px 5px 0;border-bottom:1px solid ${PAPER.rule}}
th{color:${PAPER.second}}.figures{font-variant-numeric:tabular-nums;font-family:"JetBrains Mono",ui-monospace,monospace;font-size:12.5px}
dl{display:grid;grid-template-columns:max-content 1fr;gap:3px 16px;margin:8px 0}dt{color:${PAPER.second}}dd{margin:0}
figure{margin:0}figcaption{font-size:12.5px;color:${PAPER.second}}.photos{display:grid;grid-template-columns:repeat(auto-fill,minmax(240px,1fr));gap:14px;margin:8px 0}
img{width:100%;height:auto;display:block}svg{max-width:100%;height:auto;display:block;margin:8px 0}nav ul{padding-left:18px;columns:2}
footer{margin-top:30px;color:${PAPER.second};font-size:12.5px}
@media print{body{background:none}main{padding:0}nav{display:none}h3{break-after:avoid}tr{break-inside:avoid}.page{break-before:page}}
`;

const classed = (name: string | undefined): string => (name ? ` class="${name}"` : '');

function cell(given: Cell): string {
  if (typeof given === 'string') return escapeXml(given);
  const text = given.strong ? `<strong>${escapeXml(given.text)}</strong>` : escapeXml(given.text);
  return given.note ? `${text}<span class="note">${escapeXml(given.note)}</span>` : text;
}

function block(given: Block, photos: Photos): string {
  switch (given.type) {
    case 'text':
      return `<p${classed(given.tone)}>${escapeXml(given.text)}</p>`;
    case 'heading':
      return `<h3>${escapeXml(given.text)}</h3>`;
    case 'facts':
      return `<dl>${given.facts.map(({ name, value }) => `<dt>${escapeXml(name)}</dt><dd>${escapeXml(value)}</dd>`).join('')}</dl>`;
    case 'list':
      return `<ul>${given.items.map((item) => `<li>${escapeXml(item)}</li>`).join('')}</ul>`;
    case 'picture':
      return given.svg;
    case 'photos':
      return `<div class="photos">${given.photos.map((photo) => figure(photo, photos)).join('')}</div>`;
    case 'page':
      return '<div class="page"></div>';
    case 'table': {
      const head = given.columns.map(({ name }) => `<th scope="col">${escapeXml(name)}</th>`).join('');
      const body = given.rows
        .map(
          (row) =>
            `<tr>${row.map((each, at) => `<td${classed(given.columns[at]?.figures ? 'figures' : undefined)}>${cell(each)}</td>`).join('')}</tr>`,
        )
        .join('\n');
      return `<div class="scroll"><table><thead><tr>${head}</tr></thead><tbody>\n${body}\n</tbody></table></div>`;
    }
  }
}

function figure({ sha256, widthPx, heightPx, caption }: PrintedPhoto, photos: Photos): string {
  const said = `<figcaption>${escapeXml(caption)}</figcaption>`;
  const jpeg = photos.get(sha256);
  if (jpeg === undefined) return `<figure><p class="caution">The photo is missing.</p>${said}</figure>`;
  return `<figure><img ${PHOTO_MARK}${jpeg}" width="${widthPx}" height="${heightPx}" alt="${escapeXml(caption)}">${said}</figure>`;
}

/** What stands before a photo's bytes in a page. */
export const PHOTO_MARK = 'src="data:image/jpeg;base64,';

/** JSON that can stand inside a page: no tag begins in it. */
export const jsonInPage = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c');

function page(report: Report, data: ReportData, photos: Photos): string {
  const contents = report.sections
    .map(({ id, title }) => `<li><a href="#${id}">${escapeXml(title)}</a></li>`)
    .join('');
  const sections = report.sections.map(
    ({ id, title, blocks }) =>
      `<section id="${id}"><h2>${escapeXml(title)}</h2>\n${blocks.map((one) => block(one, photos)).join('\n')}\n</section>`,
  );
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">
<title>${escapeXml(report.title)}</title><style>${STYLE}</style></head>
<body><main><h1>${escapeXml(report.title)}</h1><p class="quiet">${escapeXml(report.subtitle)}</p>
<nav aria-label="Contents"><ul>${contents}</ul></nav>
${sections.join('\n')}
<footer>${escapeXml(report.made)}</footer></main>
<script type="application/json" id="${DATA_ID}">${jsonInPage(data)}</script>
</body></html>
`;
}

/** A report as one file that needs nothing else: no script runs in it, nothing is fetched, and the data it was made from are inside. */
export const reportHtml = (data: ReportData, photos: Photos = new Map()): string =>
  page(makeReport(data), data, photos);
