export { MOVES, type Move } from './moves'
export { cyclesFor, farFor, lackingFor, type MoveWanted, moveNamed, takeMove } from './take'
