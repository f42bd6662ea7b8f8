// Package core is the kitchen's computation. Its rooms know nothing of web, database,
// files, clock or chance; a test beside this file holds who may know whom.
package core
