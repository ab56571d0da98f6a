/** The grid on the ground. */
import * as THREE from 'three';

/** Cells from the middle of the ground's grid to its rim. */
const GROUND_REACH = 20;

/** Each line is cut at the cells: whole ones that pass behind the camera were lost when clipped. */
export function makeGround(cell: number, main: THREE.Color, other: THREE.Color): THREE.LineSegments {
	const positions: number[] = [];
	const colours: number[] = [];
	for (let i = -GROUND_REACH; i <= GROUND_REACH; i++)
		for (let j = -GROUND_REACH; j < GROUND_REACH; j++) {
			positions.push(
				i * cell,
				0,
				j * cell,
				i * cell,
				0,
				(j + 1) * cell,
				j * cell,
				0,
				i * cell,
				(j + 1) * cell,
				0,
				i * cell
			);
			const { r, g, b } = i === 0 ? main : other;
			for (let k = 0; k < 4; k++) colours.push(r, g, b);
		}
	const geometry = new THREE.BufferGeometry();
	geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
	geometry.setAttribute('color', new THREE.Float32BufferAttribute(colours, 3));
	return new THREE.LineSegments(
		geometry,
		new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.85, depthWrite: false })
	);
}
