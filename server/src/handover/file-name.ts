/** A file name that every system takes: letters, figures and dashes. */
export const fileNameOf = (what: string, title: string, extension: string): string =>
  `${what}-${
    title
      .normalize('NFKD')
      .replace(/[^\w]+/g, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'job'
  }.${extension}`;
