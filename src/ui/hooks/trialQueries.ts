'use client';

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { TriedMeasure } from '../../contract/trial.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { atQuality, ratedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import { RATED } from '../../core/video/codecs.ts';
import { api, type NewTrial } from './api.ts';

/** Trials of a programme, the newest first. */
export const useTrials = (programmeId: string) =>
  useQuery({ queryKey: ['trials', programmeId], queryFn: () => api.trialsOf(programmeId) });

/** Size against quality, as far as it was measured. */
export const useScale = (programmeId: string, measure: TriedMeasure) =>
  useQuery({
    queryKey: ['scale', programmeId, measure],
    queryFn: () => api.scale(programmeId, measure),
    placeholderData: keepPreviousData,
  });

/** What trials foresee of an order, whatever its rate and sound; null asks for nothing. */
export const triedQuery = (programmeId: string, recipe: Recipe, portion: Portion | null) => {
  const video = ratedVideo(recipe);
  const order = video && {
    recipe: {
      ...recipe,
      name: '',
      audio: null,
      video: { ...video, rate: atQuality(RATED[video.codec].quality.usual) },
    },
    portion: portion && { inFrame: portion.inFrame, outFrame: portion.outFrame },
  };
  return {
    queryKey: ['tried', programmeId, order],
    enabled: order !== null,
    queryFn: () => (order ? api.tried(programmeId, order) : { tried: null }),
    retry: false,
    staleTime: Infinity,
  };
};

/** What a trial would be. */
export const useTrialPlan = (request: NewTrial | null) =>
  useQuery({
    queryKey: ['trial-plan', request],
    queryFn: () => api.planTrial(request!),
    enabled: request !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Starts a trial, and ends one. */
export function useTrialActs(programmeId: string) {
  const client = useQueryClient();
  const onSettled = () => client.invalidateQueries({ queryKey: ['trials', programmeId] });
  const onError = (error: Error) => void toast.error(error.message);
  return {
    ask: useMutation({ mutationFn: api.askTrial, onSettled, onError }),
    stop: useMutation({ mutationFn: api.stopTrial, onSettled, onError }),
  };
}
