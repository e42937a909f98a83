package server

import "slices"

// routes is the table of everything that can be asked for, and by whom.
func (s *Server) routes() []route {
	return slices.Concat(
		s.peopleRoutes(),
		s.readinessRoutes(),
		s.installationRoutes(),
		s.repositoryRoutes(),
		s.readingRoutes(),
		s.toldRoutes(),
		s.nameRoutes(),
		s.followRoutes(),
		s.searchRoutes(),
		s.extractRoutes(),
		s.mapRoutes(),
		s.logRoutes(),
		s.commitRoutes(),
		s.hotspotRoutes(),
		s.knowingRoutes(),
		s.compareRoutes(),
		s.fetchRoutes(),
		s.feedRoutes(),
		s.markRoutes(),
		s.correctionRoutes(),
		s.leadRoutes(),
		s.taggedRoutes(),
		s.wordRoutes(),
		s.viewRoutes(),
		s.annotationRoutes(),
		s.noteRoutes(),
		s.attachmentRoutes(),
		s.exchangeRoutes(),
		s.planRoutes(),
		s.draftRoutes(),
		s.planDocumentRoutes(),
		s.composingRoutes(),
		s.editionRoutes(),
		s.guidingRoutes(),
		[]route{s.events()},
	)
}
