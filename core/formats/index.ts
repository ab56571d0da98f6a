export * from './read-mesh.ts';
export { readObj, writeObj } from './obj.ts';
export { readPly } from './ply.ts';
export { readStl } from './stl.ts';
export { readGlb } from './read-glb.ts';
export * from './write-glb.ts';
export * from './package-file.ts';
export { readSvg } from './svg.ts';
export { readPicture } from './image.ts';
