export { adopt, type Adopted, type Piece, piecesOf } from "./pieces.ts";
