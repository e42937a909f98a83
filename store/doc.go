// Package store keeps the records in PostgreSQL: people and their parts,
// repositories, surveys, facts, plans. Rows stay inside; what comes out are
// values of this package or of core.
//
// Records go through GORM; bulk loads go through COPY on the same pool.
package store
