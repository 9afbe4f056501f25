/** The crew that every installation begins with. */
export const FIRST_CREW = '00000000-0000-4000-8000-000000000001';
