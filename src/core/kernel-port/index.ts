export type { BodyHandle, BodyMesh, BodyProperties, ExtrudeRequest, KernelFailure, KernelPort, SavedBody } from './kernel-port';
