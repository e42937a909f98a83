package server

import "context"

// HoldPasswords takes every turn of those who hash passwords, until release is called.
func (s *Server) HoldPasswords() (release func()) {
	for range cap(s.passwords.turn) {
		_ = s.passwords.begin(context.Background()) // nobody else is there
	}
	return func() {
		for range cap(s.passwords.turn) {
			s.passwords.end()
		}
	}
}
