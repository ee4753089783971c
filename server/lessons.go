package server

import (
	"context"
	"fmt"

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
	huma.Register(
		api,
		operation("exercise", "GET", "/exercises/{level}/{seed}", "A made-up plate with one figure that is wrong"),
		func(_ context.Context, in *struct {
			Level int    `path:"level" minimum:"1" maximum:"3"`
			Seed  uint64 `path:"seed" maximum:"9007199254740991"`
		}) (*body[lesson.Exercise], error) {
			return &body[lesson.Exercise]{lesson.ExerciseOf(in.Seed, in.Level)}, nil
		},
	)
	s.practice(api)
}

// Practised is what somebody's answers came to, under the title of what was asked.
type Practised struct {
	lesson.Record
	Title string `json:"title"`
}

// practice is who has answered what: for whoever practises, and for whoever teaches.
func (s *service) practice(api huma.API) {
	keep := func(ctx context.Context, shop string, a lesson.Practised) error {
		a.Person = byHand(ctx, a.Person)
		if problems := a.Check(); problems != nil {
			return refusal("It was not kept.", "body.", problems)
		}
		return s.fault(ctx, s.Store.AddPractice(ctx, shop, a))
	}
	huma.Register(
		api,
		operation(
			"answerExercise",
			"POST",
			"/shops/{id}/exercises",
			"Answer an exercise: the mistake is named, and the answer kept under a person's name, if there is one",
		),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				ID     string `json:"id" minLength:"1" maxLength:"64"`
				Person string `json:"person" maxLength:"40"`
				Level  int    `json:"level" minimum:"1" maximum:"3"`
				Seed   uint64 `json:"seed" maximum:"9007199254740991"`
				Field  string `json:"field" maxLength:"40"`
			}
		}) (*body[lesson.Answered], error) {
			b := in.Body
			a := lesson.Answer(b.Seed, b.Level, b.Field)
			if byHand(ctx, b.Person) != "" {
				if err := keep(ctx, in.ID, lesson.Practised{
					ID:     b.ID,
					Person: b.Person,
					Kind:   lesson.OfExercise,
					Name:   fmt.Sprintf("level %d", b.Level),
					Right:  a.Right,
				}); err != nil {
					return nil, err
				}
			}
			return &body[lesson.Answered]{a}, nil
		},
	)
	huma.Register(
		api,
		operation("keepPractice", "POST", "/shops/{id}/practice", "Keep what somebody answered to a lesson"),
		func(ctx context.Context, in *struct {
			WithID
			Body lesson.Practised
		}) (*body[struct{}], error) {
			return &body[struct{}]{}, keep(ctx, in.ID, in.Body)
		},
	)
	huma.Register(
		api,
		operation("practice", "GET", "/shops/{id}/practice", "What a shop's people have answered, by person"),
		func(ctx context.Context, in *WithID) (*body[[]Practised], error) {
			list, err := s.Store.Practice(ctx, in.ID)
			out := []Practised{}
			for _, r := range list {
				out = append(out, Practised{r, lesson.Title(r.Kind, r.Name)})
			}
			return &body[[]Practised]{out}, s.fault(ctx, err)
		},
	)
}
