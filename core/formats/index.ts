export * from './read-mesh.ts';
export type { MeshRead } from './mesh-read.ts';
export { readObj, writeObj } from './obj.ts';
export { readGlb } from './read-glb.ts';
export * from './write-glb.ts';
export * from './package-file.ts';
export { readSvg } from './svg.ts';
export { readPicture } from './image.ts';
