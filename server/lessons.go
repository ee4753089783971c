package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/halt"
	"brackmoor/core/lesson"
)

// Lessons are those that can be taught on a motor.
type Lessons struct {
	Machine string          `json:"machine"` // its id and name
	Name    string          `json:"name"`
	Lessons []lesson.Lesson `json:"lessons" nullable:"false"`
}

func (s *service) lessons(api huma.API) {
	huma.Register(
		api,
		operation("lessonsOnMotor", "GET", "/motors/{id}/lessons", "What can be taught on a motor, by its model"),
		func(ctx context.Context, in *WithID) (*body[Lessons], error) {
			p, st, err := s.studied(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			list, err := slotted(s.slots, func(halt.Sign) []lesson.Lesson { return lesson.All(&st.Machine) })(ctx)
			return &body[Lessons]{Lessons{p.Machine.ID, p.Machine.Name, list}}, s.fault(ctx, err)
		},
	)
}
