/** One named stretch of a link's route, near end first. */
export interface RouteStretch {
  name: string;
  lengthM: number;
}
