import { timestamp } from 'drizzle-orm/pg-core';

export const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });

export const now = (name: string) => moment(name).notNull().defaultNow();
