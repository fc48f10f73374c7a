interface DrawnStamp {
  /** What it says, unless somebody writes another word. */
  word: string;
  /** Lines of an SVG path, on 32 by 32 units. */
  lines: string;
}

/** The stamps that come with Uncia, four of praise and four with a hint. */
export const DRAWN_STAMPS = {
  lamp: {
    word: 'Clear',
    lines:
      'M11 24h10M12 27h8M16 4v3M6 8l2 2M26 8l-2 2M12 24c0-4-3-5-3-9a7 7 0 0 1 14 0c0 4-3 5-3 9',
  },
  sprout: {
    word: 'Well founded',
    lines:
      'M4 21c4-2 8 1 12-1s8-1 12 1M16 20V9M16 13C11 13 9 10 9 6c5 0 7 3 7 7M16 11c0-4 2-6 6-6 0 4-2 6-6 6M16 20c-1 4-4 4-5 8M16 20c1 4 3 4 5 8M16 20v8',
  },
  eye: {
    word: 'Well seen',
    lines: 'M3 17c4-7 8-9 13-9s9 2 13 9c-4 6-8 8-13 8S7 23 3 17M16 12a5 5 0 1 0 .1 0M16 16v1',
  },
  stair: { word: 'A good step', lines: 'M4 27h7v-6h6v-6h6V9h5M8 14l5-6M13 13V8H8' },
  rings: {
    word: 'Connect these',
    lines: 'M12 9a7 7 0 1 0 .1 0M20 9a7 7 0 1 1-.1 0M8 27c5 2 11 2 16 0',
  },
  lens: { word: 'Look closer', lines: 'M13 5a8 8 0 1 0 .1 0M19 19l8 8M10 13h6M13 10v6' },
  ruler: {
    word: 'With its unit',
    lines: 'M4 20 20 4l8 8-16 16zM8 16l3 3M12 12l2 2M16 8l3 3M20 20l-2-2',
  },
  lines: { word: 'Say more', lines: 'M5 8h22M5 14h15M5 20h9M18 20l4 4 6-7' },
} as const satisfies Record<string, DrawnStamp>;

export type DrawnName = keyof typeof DRAWN_STAMPS;
