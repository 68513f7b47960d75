export function readParts(): {
  parts: Map<string, { rooms: Set<string>; files: number; lines: number }>;
  edges: Map<string, number>;
};
export function drawParts(read: ReturnType<typeof readParts>): string;
export function edgesDrawn(svg: string): string[];
