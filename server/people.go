package server

import (
	"cmp"
	"context"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/store"
)

// Names of the roles that something needs.
const (
	reads    = "reads"
	measures = "measures"
	plans    = "plans"
	drives   = "drives"
)

// needs are the rights that operations want which are not those of their kind: what only looks wants to read, all else
// to plan. What is tried, simulated or reckoned keeps nothing, so whoever reads may; and whoever reads may stop a
// motor.
var needs = map[string]string{
	"diagnoseMotor":   reads,
	"routesOfMotor":   reads,
	"tryWay":          reads,
	"playWiring":      reads,
	"readMeterLog":    reads,
	"startOnFloor":    reads,
	"togetherOnFloor": reads,
	"tryFloor":        reads,
	"testSupply":      reads,
	"readPlate":       reads,
	"readSeenPlate":   reads,
	"reckon":          reads,
	"keepPractice":    reads,
	"answerExercise":  reads,
	"endSignIn":       reads,
	"haltDrive":       reads,
	"standDrive":      reads,
	"clearDrive":      reads,
	"pressKey":        reads,
	"wireBench":       reads,
	"rigMotor":        reads,
	"clearRig":        reads,
	"doToRig":         reads,
	"paceRig":         reads,
	"probeRig":        reads,
	"readRig":         reads,
	"writeDown":       measures,
	"addReading":      measures,
	"changeBuilt":     measures,
	"changeLeads":     measures,
	"compareDrive":    measures,
	"leaveFloor":      measures,
	"writeDrive":      drives,
	"holdDrive":       drives,
}

// need is the right that an operation wants.
func need(o *huma.Operation) string {
	if right, ok := needs[o.OperationID]; ok {
		return right
	}
	if o.Method == http.MethodGet {
		return reads
	}
	return plans
}

// refused is the sentence for whoever may not do something.
func refused(right string) string {
	for _, r := range store.Roles {
		if r.Name == right {
			return "Nothing was done: that is for whoever " + r.Title + "."
		}
	}
	return "Nothing was done: that is for nobody."
}

// rights lets an operation be done by those alone who may.
func rights(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		right := need(ctx.Operation())
		if !store.May(roleOf(ctx.Context()), right) {
			_ = huma.WriteErr(api, ctx, http.StatusForbidden, refused(right)) // who has gone does not hear it
			return
		}
		next(ctx)
	}
}

// may is rights for what is no operation.
func may(right string, do http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if !store.May(roleOf(r.Context()), right) {
			writeProblem(w, http.StatusForbidden, refused(right))
			return
		}
		do(w, r)
	}
}

// byHand is under whose name something is written down: the caller's own, and what was typed only for who has none.
func byHand(ctx context.Context, typed string) string {
	return cmp.Or(store.Who(ctx), strings.TrimSpace(typed))
}

// Me is who asks, "" by name where nobody is known by name, with what they may do, and where they are signed in.
type Me struct {
	Name    string         `json:"name"`
	Role    store.Role     `json:"role"`
	SignIn  string         `json:"sign_in"` // this one
	SignIns []store.SignIn `json:"sign_ins" nullable:"false"`
}

func (s *service) people(api huma.API) {
	huma.Register(api, operation("me", "GET", "/me", "Who asks, what they may do, and where they are signed in"),
		func(ctx context.Context, _ *struct{}) (*body[Me], error) {
			c := callerOf(ctx)
			me := Me{SignIn: c.signIn, SignIns: []store.SignIn{}}
			for _, r := range store.Roles {
				if r.Name == roleOf(ctx) {
					me.Role = r
				}
			}
			if c.person == nil {
				return &body[Me]{me}, nil
			}
			me.Name = c.person.Name
			list, err := s.Store.SignIns(ctx, c.person.ID, s.Now().Add(-lifetime))
			me.SignIns = append(me.SignIns, list...)
			return &body[Me]{me}, s.fault(ctx, err)
		},
	)
	huma.Register(api, operation("endSignIn", "DELETE", "/me/sign-ins/{id}", "End one of one's own sessions"),
		func(ctx context.Context, in *WithID) (*body[struct{}], error) {
			c := callerOf(ctx)
			if c.person == nil {
				return nil, huma.Error404NotFound("Nobody is signed in by name here.")
			}
			return &body[struct{}]{}, s.fault(ctx, s.Store.EndSignIn(ctx, c.person.ID, in.ID))
		},
	)
}
