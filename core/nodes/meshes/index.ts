/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { grid } from './grid.ts';
import { box } from './box.ts';
import { cylinder } from './cylinder.ts';
import { sphere } from './sphere.ts';
import { disc } from './disc.ts';
import { torus } from './torus.ts';
import { tube } from './tube.ts';
import { sweep } from './sweep.ts';
import { extrude } from './extrude.ts';
import { revolve } from './revolve.ts';
import { ribbon } from './ribbon.ts';
import { loft } from './loft.ts';
import { subdivide } from './subdivide.ts';
import { fillOutline } from './fill-outline.ts';
import { deleteWhere } from './delete-where.ts';
import { cutAtValue } from './cut-at-value.ts';
import { importMesh } from './import-mesh.ts';
import { materialNode } from './material.ts';
import { measure } from './measure.ts';
import { smoothNormals } from './smooth-normals.ts';
import { delaunayTriangles } from './delaunay-triangles.ts';
import { hull } from './hull.ts';

export const meshes: readonly AnyNode[] = [
	grid,
	box,
	cylinder,
	sphere,
	disc,
	torus,
	tube,
	sweep,
	extrude,
	revolve,
	ribbon,
	loft,
	subdivide,
	fillOutline,
	deleteWhere,
	cutAtValue,
	importMesh,
	materialNode,
	measure,
	smoothNormals,
	delaunayTriangles,
	hull
];
