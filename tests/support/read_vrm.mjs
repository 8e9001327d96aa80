// Prints what a VRM reader that is not ours finds in an avatar, as JSON.
import { readFileSync } from 'node:fs';

globalThis.self = globalThis.window = globalThis; // what a browser has
const three = await import('three');
const { GLTFLoader } = await import('three/examples/jsm/loaders/GLTFLoader.js');
const { VRMLoaderPlugin } = await import('@pixiv/three-vrm');

// Pictures are not looked at, and nothing here could draw them.
const picture = { width: 1, height: 1, close() {} };
three.ImageBitmapLoader.prototype.load = (url, done) => setTimeout(() => done(picture), 0);
three.TextureLoader.prototype.load = (url, done) => {
    const texture = new three.Texture();
    setTimeout(() => done(texture), 0);
    return texture;
};

const file = readFileSync(process.argv[2]);
const loader = new GLTFLoader();
loader.register((parser) => new VRMLoaderPlugin(parser));
const gltf = await loader.parseAsync(file.buffer.slice(file.byteOffset, file.byteOffset + file.length), '');
const { meta, humanoid, expressionManager, lookAt, springBoneManager, firstPerson, nodeConstraintManager } = gltf.userData.vrm;
console.log(JSON.stringify({
    meta,
    bones: Object.keys(humanoid.humanBones).sort(),
    expressions: expressionManager.expressions.map((one) => ({
        name: one.expressionName,
        binary: one.isBinary,
        overrides: [one.overrideBlink, one.overrideLookAt, one.overrideMouth],
        binds: one.binds.length,
    })),
    lookAt: lookAt && {
        offset: lookAt.offsetFromHeadBone.toArray(),
        outward: lookAt.applier.rangeMapHorizontalOuter,
        up: lookAt.applier.rangeMapVerticalUp,
    },
    springs: [...(springBoneManager?.joints ?? [])].length,
    seen: firstPerson?.meshAnnotations.map((one) => one.type) ?? [],
    constraints: [...(nodeConstraintManager?.constraints ?? [])].length,
}));
