import type { Link, LinkChange, NewLink } from '@near-spoke/contracts';
import { hubsOf, portKey, portsOf, type HubPort, type LinkPlaces } from '@near-spoke/core';
import { Refusal } from '../problems.js';

/** A change of one link's plan, and where it stands in what was sent. */
export interface PlanChange {
  linkId: string;
  change: LinkChange;
  path?: string;
}

/** Where a planned link begins and ends. */
export const placesOf = ({ hub, panel, port, room, outlet }: NewLink, own: string): LinkPlaces => ({
  near: { hub: hub || own, panel, port },
  far: { room, outlet },
});

/** The field that names the port at either end. */
export const PORT_FIELDS = ['port', 'outlet'];

/** Two links of a job have neither one label nor one port, at either end, however the changes are made. */
export function refuseTaken(own: string, links: readonly Link[], changes: readonly PlanChange[]): void {
  const changed = new Map(changes.map((one) => [one.linkId, one]));
  const after = links.map((planned) => {
    const { label = planned.label, hub, panel, port, room, outlet } = changed.get(planned.id)?.change ?? {};
    const { near, far } = planned;
    const places: LinkPlaces = {
      near: {
        hub: hub === undefined ? near.hub : hub || own,
        panel: panel ?? near.panel,
        port: port ?? near.port,
      },
      far: { room: room ?? far.room, outlet: outlet ?? far.outlet },
    };
    return { id: planned.id, label, before: planned, places };
  });
  const hubs = hubsOf(own, after.map(({ places }) => places)); // prettier-ignore
  // What stays as it was comes first: what is changed is told that it is taken.
  const moves = (id: string): boolean => changed.has(id);
  after.sort((a, b) => Number(moves(a.id)) - Number(moves(b.id)));
  const labels = new Set<string>();
  const ports = new Map<string, string>();
  for (const { id, label, before, places } of after) {
    const { path = '' } = changed.get(id) ?? {};
    if (labels.has(label)) throw labelTaken(`${path}label`, label);
    labels.add(label);
    const had = portsOf(before, hubs).map(portKey);
    portsOf(places, hubs).forEach((taken, end) => {
      const key = portKey(taken);
      const other = ports.get(key);
      // A port that two links had before is no fault of this change.
      if (other !== undefined && !had.includes(key))
        throw portTaken(`${path}${PORT_FIELDS[end]}`, taken, other);
      ports.set(key, other ?? label);
    });
  }
}

/** Links that come back find their labels and ports as free as they left them. */
export function refuseTakenAgain(links: readonly Link[], back: readonly Link[]): void {
  const labels = new Set(links.map(({ label }) => label));
  const hubs = [...new Set([...links, ...back].map(({ near }) => near.hub))];
  const ports = new Map(
    links.flatMap((one) => portsOf(one, hubs).map((taken) => [portKey(taken), one.label])),
  );
  for (const one of back) {
    if (labels.has(one.label)) throw labelTaken('links', one.label);
    labels.add(one.label);
    for (const taken of portsOf(one, hubs)) {
      const other = ports.get(portKey(taken));
      if (other !== undefined) throw portTaken('links', taken, other);
      ports.set(portKey(taken), one.label);
    }
  }
}

export const labelTaken = (path: string, label: string): Refusal =>
  new Refusal(409, 'Label taken', `This job already has a link ${label}. Give another label.`, {
    errors: [{ path, message: 'Already used in this job.' }],
  });

export const portTaken = (path: string, { panel, port }: HubPort, by: string): Refusal =>
  new Refusal(409, 'Port taken', `Port ${port} of ${panel} is ${by}’s already. Give another port.`, {
    errors: [{ path, message: `It is ${by}’s already.` }],
  });
