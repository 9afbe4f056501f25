import { InjectionToken } from '@angular/core';

/** The day and the minute of it, where one is. */
export const LOCAL_NOW = new InjectionToken<() => { day: string; minute: number }>('local now', {
  providedIn: 'root',
  factory: () => () => {
    const now = new Date();
    const two = (figure: number): string => String(figure).padStart(2, '0');
    return {
      day: `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`,
      minute: 60 * now.getHours() + now.getMinutes(),
    };
  },
});
