// Package survey makes one complete analysis of a repository at one pin: it
// runs the computations of core stage by stage and hands what each stage found
// to a sink. It knows no database and no interface.
//
// What a blob says and which paths a commit changed never change; a Memory
// keeps them between surveys, so that a survey costs what is new.
package survey
