/** A port of a panel in a hub. */
export interface HubPort {
  hub: string;
  panel: string;
  port: string;
}

/** Where a link begins and ends. */
export interface LinkPlaces {
  near: HubPort;
  far: { room: string; outlet: string };
}

/** A job's own hub, and the others where its links begin, in the order in which they are first met. */
export const hubsOf = (own: string, links: readonly Pick<LinkPlaces, 'near'>[]): string[] => [
  ...new Set([own, ...links.map(({ near }) => near.hub)]),
];

/** `P2/14`, `P2 14` or `P2 port 14`. */
const PORT_OF_PANEL = /^(\S.*?)(?:\s*\/\s*|\s+)(?:port\s+)?(\S+)$/i;

/** The port at the far end of a link that ends in another hub; null where it ends at an outlet. */
export function farPort({ room, outlet }: LinkPlaces['far'], hubs: readonly string[]): HubPort | null {
  if (!hubs.includes(room)) return null;
  const [, panel, port] = PORT_OF_PANEL.exec(outlet.trim()) ?? [];
  return panel === undefined || port === undefined ? null : { hub: room, panel, port };
}

/** The ports that a link takes: one, or one at either end where it goes from hub to hub. */
export function portsOf({ near, far }: LinkPlaces, hubs: readonly string[]): HubPort[] {
  const there = farPort(far, hubs);
  return there ? [near, there] : [near];
}

/** What tells a port from all others of a job. */
export const portKey = ({ hub, panel, port }: HubPort): string => JSON.stringify([hub, panel, port]);

/** Links that begin or end in a hub. */
export const linksAt = <T extends LinkPlaces>(hub: string, links: readonly T[]): T[] =>
  links.filter(({ near, far }) => near.hub === hub || far.room === hub);
