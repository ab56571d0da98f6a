/** Whether the browser has no graphics card to draw with; asked on a page or in a worker. */
export function drawsInSoftware(): boolean {
	const gl = new OffscreenCanvas(1, 1).getContext('webgl2');
	const info = gl?.getExtension('WEBGL_debug_renderer_info');
	const name = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
	gl?.getExtension('WEBGL_lose_context')?.loseContext();
	return /software|swiftshader|llvmpipe|basic render/i.test(name);
}
