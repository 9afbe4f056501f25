import type { LabelLines } from './label-text.js';

/**
 * Ways of writing labels. An identifier of a link by its space, panel and port, which both ends bear, follows the way of
 * ANSI/TIA-606: space, a dot or dash, panel, port.
 */
export const LABEL_WAYS: readonly { id: string; name: string; lines: LabelLines }[] = [
  {
    id: 'label-and-other-end',
    name: 'Label, and where the other end is',
    lines: { near: ['{label}', '{room}, {outlet}'], far: ['{label}', '{hub} {panel} port {port}'] },
  },
  {
    id: 'space-panel-port',
    name: 'Space.panel-port, the same at both ends (in the way of TIA-606)',
    lines: { near: ['{hub}.{panel}-{port}'], far: ['{hub}.{panel}-{port}'] },
  },
  {
    id: 'space-panel-port-outlet',
    name: 'Space.panel-port / outlet, the same at both ends',
    lines: { near: ['{hub}.{panel}-{port}', '{outlet}'], far: ['{hub}.{panel}-{port}', '{outlet}'] },
  },
  { id: 'label', name: 'Label only', lines: { near: ['{label}'], far: ['{label}'] } },
];
