package api

import (
	"ubiquant/docs"
	"ubiquant/server/store"
)

var schema = docs.WorkspaceSchema

// table lists every typed operation with the role it needs.
func (s *Server) table() []Route {
	return []Route{
		op(s, "GET", "/api/health", Everyone, "Whether the server serves", s.health),
		op(s, "POST", "/api/sign-in", Everyone, "Open a session by name and password", s.signIn),
		op(s, "POST", "/api/sign-in/link", Everyone, "Open a session by a one-time link", s.signInLink),
		op(s, "POST", "/api/sign-out", store.Reader, "End the session", s.signOut),
		op(s, "GET", "/api/people", store.Reader, "Who works here", s.people),
		op(s, "POST", "/api/people", store.Keeper, "Add or change a person", s.putPerson),
		op(s, "POST", "/api/people/link", store.Keeper, "Make a one-time sign-in link for a person", s.personLink),
		op(s, "GET", "/api/workspace", store.Reader, "The workspace at a glance", s.workspace),
		op(s, "GET", "/api/docs/:kind/:id", store.Reader, "A screen, shell or piece", s.doc),
		op(s, "GET", "/api/docs/:kind/:id/choices", store.Reader, "What can be chosen at an element, with its norms", s.choices),
		op(s, "GET", "/api/docs/:kind/:id/next", store.Reader, "What may come next at a place", s.next),
		op(s, "GET", "/api/docs/:kind/:id/code", store.Reader, "A document as code that people edit", s.docCode),
		op(s, "POST", "/api/docs/:kind/:id/code", store.Builder, "Take edited code as the edits it means", s.putCode),
		op(s, "POST", "/api/here", store.Reader, "Where a window looks, for the others", s.here),
		op(s, "GET", "/api/docs/:kind/:id/past", store.Reader, "A document as it was, and what differs since", s.past),
		op(s, "POST", "/api/docs/:kind/:id/restore", store.Builder, "Bring a document, or some of its elements, back to what it was", s.restore),
		op(s, "POST", "/api/pieces/propose", store.Reader, "What a piece made of a part would be, and where else the same stands", s.proposePiece),
		op(s, "POST", "/api/pieces/extract", store.Builder, "Make a piece of a part, and use it there and in place of its twins", s.extractPiece),
		op(s, "POST", "/api/pieces/loose", store.Builder, "Cut a use loose from its piece", s.loosePiece),
		op(s, "POST", "/api/bring-in", store.Reader, "Markup read as components, each with its certainty", s.bringIn),
		op(s, "GET", "/api/snippet", store.Reader, "A whole arrangement made of a model or of the routes", s.snippet),
		op(s, "POST", "/api/pages", store.Reader, "Rendered documents", s.pages),
		op(s, "POST", "/api/fragments", store.Reader, "Rendered parts of documents", s.fragments),
		op(s, "POST", "/api/render", store.Reader, "Rendered trees that stand in no document", s.renderTrees),
		op(s, "POST", "/api/changes", store.Builder, "Take a change", s.change),
		op(s, "POST", "/api/changes/:seq/undo", store.Builder, "Take a change back", s.undo),
		op(s, "GET", "/api/changes", store.Reader, "The history, newest first", s.history),
		op(s, "GET", "/api/kit", store.Reader, "The kit: components, tokens, icons", s.kit),
		op(s, "GET", "/api/kit/:tag", store.Reader, "A component with its use", s.component),
		op(s, "GET", "/api/dress", store.Reader, "What the team adds to the kit, for the frames", s.dress),
		op(s, "GET", "/api/themes", store.Reader, "Themes, how they are made, and fonts", s.themes),
		op(s, "POST", "/api/themes/preview", store.Reader, "A theme that is not kept: its styles, contrast and reach", s.previewTheme),
		op(s, "POST", "/api/themes/read", store.Reader, "Design tokens read as settings of a theme", s.readTheme),
		op(s, "POST", "/api/themes", store.Keeper, "Keep a theme", s.keepTheme),
		op(s, "POST", "/api/fonts", store.Keeper, "Add a font of the team's own", s.addFont),
		op(s, "POST", "/api/fonts/remove", store.Keeper, "Take a font away", s.removeFont),
		op(s, "POST", "/api/icons/check", store.Reader, "An icon of one's own in the form it would be kept", s.checkIcon),
		op(s, "GET", "/api/icons/:name", store.Reader, "Where an icon stands", s.iconUses),
		op(s, "POST", "/api/reach", store.Reader, "What a change of tokens shows on", s.reach),
		op(s, "POST", "/api/packages", store.Builder, "What an application has installed, from its package.json", s.packages),
		op(s, "POST", "/api/code", store.Reader, "An element as code in every target", s.code),
		op(s, "GET", "/api/find", store.Reader, "Find anything", s.find),
		op(s, "GET", "/api/where", store.Reader, "Where a selector matches", s.where),
		op(s, "GET", "/api/census", store.Reader, "Open questions, strays, findings, house rules", s.census),
		op(s, "GET", "/api/census/line-up", store.Reader, "Every use of a component, grouped by how it is set", s.lineUp),
		op(s, "GET", "/api/census/count", store.Reader, "Components by screens", s.count),
		op(s, "GET", "/api/rules", store.Reader, "The rules", s.ruleList),
		op(s, "POST", "/api/census/line", store.Builder, "Bring strays and findings into line, or preview it", s.line),
		op(s, "POST", "/api/census/settle", store.Keeper, "Settle an open question by a house rule", s.settle),
		op(s, "POST", "/api/census/unsettle", store.Keeper, "Lift a house rule", s.unsettle),
		op(s, "POST", "/api/census/let-stand", store.Builder, "Let a finding stand", s.letStand),
		op(s, "POST", "/api/docs/:kind/:id/sign-off", store.Builder, "Sign a screen off", s.signOff),
		op(s, "GET", "/api/samples", store.Reader, "Models, records and sample sets", s.samples),
		op(s, "GET", "/api/targets", store.Reader, "Delivery targets", s.targets),
		op(s, "POST", "/api/deliver", store.Reader, "Deliver screens as code, to look at", s.deliver),
	}
}
